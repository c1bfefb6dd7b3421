import { Note } from 'tonal';
import { describe, expect, it } from 'vitest';
import { music21Names } from '../../tests/support/music21-names.ts';
import { keyWords } from '../song/event-words.ts';
import { alongInstruments } from './along/along.ts';
import { familyOf } from './general-midi.ts';
import { namedIn } from './names.ts';

/**
 * Lowest written note and transposition of instruments as in music21 10.5.0, instrument.py (BSD), '' where
 * it has none; sounding where the class says no transposition. Read by npm tonal.
 */
const music21: readonly (readonly [name: string, lowest: string, transposition: string])[] = [
  ['Piccolo', 'D4', '8P'],
  ['Flute', 'C4', ''],
  ['Alto recorder', 'F4', ''],
  ['Oboe', 'Bb3', ''],
  ['English horn', 'B3', '-5P'],
  ['Clarinet in B♭', 'E3', '-2M'],
  ['Bass clarinet', 'Eb3', '-9M'],
  ['Bassoon', 'Bb1', ''],
  ['Soprano saxophone', 'Bb3', '-2M'],
  ['Alto saxophone', 'Bb3', '-6M'],
  ['Tenor saxophone', 'Bb3', '-9M'],
  ['Trumpet in B♭', 'F#3', '-2M'],
  ['Trombone', 'E2', ''],
  ['Bass trombone', 'Bb1', ''],
  ['Tuba', 'D1', ''],
  ['Violin', 'G3', ''],
  ['Viola', 'C3', ''],
  ['Cello', 'C2', ''],
  ['Double bass', 'E2', '-8P'],
  ['Mandolin', 'G3', ''],
  ['Ukulele', 'C4', ''],
  ['Piano', 'A0', ''],
  ['Harpsichord', 'F1', ''],
  ['Pipe organ', 'C2', ''],
  ['Accordion', 'F3', ''],
];

const along = (name: string) =>
  alongInstruments.find((a) => a.definition.name === name)!.definition;

describe('instruments that come along, against music21’s tables', () => {
  it.each(music21)('%s sounds from %s, transposed %s', (name, lowest, transposition) => {
    const sounding = transposition === '' ? lowest : Note.transpose(lowest, transposition);
    expect(along(name).playable!.lowest).toBe(Note.midi(sounding));
    if (transposition !== '')
      expect(along(name).transposition).toBe(Note.midi(sounding)! - Note.midi(lowest)!);
  });

  it('differs where music21 and common practice do, each for its reason', () => {
    // The low A of today's baritone saxophone: music21's class goes to the low B♭, a semitone above.
    expect(along('Baritone saxophone').playable!.lowest).toBe(
      Note.midi(Note.transpose('Bb3', '-13M'))! - 1,
    );
    // Written B♭1 as of a bassoon, sounding an octave lower: the class inherits no transposition.
    expect(along('Contrabassoon').playable!.lowest).toBe(Note.midi('Bb1')! - 12);
    // The lowest string down to C♭ by its pedal; the class says C1.
    expect(along('Harp').playable!.lowest).toBe(Note.midi('C1')! - 1);
    // Guitars are written an octave higher; the classes give what sounds.
    expect(along('Classical guitar').playable!.lowest).toBe(Note.midi('E2'));
    expect(along('Bass guitar').playable!.lowest).toBe(Note.midi('E1'));
  });

  it('are about fifty, each with a range, comfortable within playable, and its source', () => {
    expect(alongInstruments.length).toBeGreaterThan(40);
    expect(new Set(alongInstruments.map((a) => a.id)).size).toBe(alongInstruments.length);
    for (const { definition } of alongInstruments) {
      expect(definition.playable).not.toBeNull();
      expect(definition.source).not.toBe('');
    }
  });
});

describe('percussion keys, against music21 (instrument.py: percMapPitch and modifiers; midi/percussion.py)', () => {
  it.each([
    [35, 'acoustic bass drum'],
    [36, 'bass drum 1'],
    [37, 'side stick'],
    [38, 'acoustic snare'],
    [40, 'electric snare'],
    [41, 'low floor tom'],
    [42, 'closed hi-hat'],
    [43, 'high floor tom'],
    [44, 'pedal hi-hat'],
    [45, 'low tom'],
    [46, 'open hi-hat'],
    [47, 'low-mid tom'],
    [48, 'hi-mid tom'],
    [49, 'crash cymbal 1'],
    [50, 'high tom'],
    [54, 'tambourine'],
    [56, 'cowbell'],
    [57, 'crash cymbal 2'],
    [58, 'vibra-slap'],
    [60, 'high bongo'],
    [61, 'low bongo'],
    [62, 'mute high conga'],
    [63, 'open high conga'],
    [64, 'low conga'],
    [65, 'high timbale'],
    [66, 'low timbale'],
    [67, 'high agogo'],
    [68, 'low agogo'],
    [70, 'maracas'],
    [71, 'short whistle'],
    [72, 'long whistle'],
    [76, 'high wood block'],
    [77, 'low wood block'],
    [80, 'mute triangle'],
    [81, 'open triangle'],
  ])('key %i is %s', (key, name) => {
    expect(keyWords(key, 9, 4).toLowerCase()).toBe(name);
  });
});

/**
 * What is wanted of each language: the family (or drums) as in music21's table. What is missing are noise
 * makers, and names that mean two things.
 */
const wanted: Readonly<Record<string, number>> = {
  english: 0.93,
  german: 0.88,
  french: 0.86,
  italian: 0.84,
  spanish: 0.81,
  abbreviation: 0.72,
};

describe('names of instruments, against music21’s tables of five languages (languageExcerpts/instrumentLookup.py)', () => {
  it.each(Object.entries(music21Names))('%s', (language, rows) => {
    const right = rows.filter(([name, program]) => {
      const named = namedIn(name);
      if (!named) return false;
      return program === -1
        ? named.drums
        : !named.drums && familyOf(named.program) === familyOf(program);
    });
    console.log(`${language}: ${right.length} of ${rows.length} names read as the table does`);
    expect(right.length / rows.length).toBeGreaterThanOrEqual(wanted[language]!);
  });

  it('short forms count as whole words only, and words of work are none', () => {
    for (const name of ['Track 1', 'Tr 2', 'Inst 3', 'Take 7', 'Clip', 'Obligato', 'Flow'])
      expect(namedIn(name), name).toBeUndefined();
  });
});
