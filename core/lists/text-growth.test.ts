import { describe, it, expect } from 'vitest';
import { costRatio, fourfoldLimit } from '../../tests/support/cost.ts';
import { readChord } from '../harmony/read-chord.ts';
import { readTyped } from '../harmony/typed-chords.ts';
import { readInstruments } from '../instruments/read-file.ts';
import { parseKeySignature } from '../song/key-names.ts';
import type { TimedSong } from '../song/maps.ts';
import { mapsOf } from '../song/maps.ts';
import { chordIn } from '../timing/chord-texts.ts';
import { readEdl } from '../timing/edl.ts';
import { meterMap, parsePosition } from '../timing/meter-map.ts';
import { parseTimecode } from '../timing/timecode.ts';
import { trimEnd, trimEnds } from '../units/trim-ends.ts';
import { parseKeyName } from '../units/units.ts';
import { parseBpm, parseSeconds } from './csv-rows.ts';
import { readList } from './lists.ts';

const song = {
  division: { kind: 'ppq', ticksPerQuarter: 96 },
  timing: {
    ...{ tempos: [], meters: [{ atTick: 0, bar: 1, numerator: 4, denominator: 4 }], keys: [] },
    ...{ markers: [], cuePoints: [], texts: [], chords: [], sections: [] },
    timecode: { atTick: 0, rate: '25', frames: 0 },
  },
} as unknown as TimedSong;
const maps = mapsOf(song);
const meters = meterMap(song.timing.meters, song.division);
const encode = (text: string): Uint8Array => new TextEncoder().encode(text);

/** Every reader of text that comes from outside, with what such a text may begin with. */
const readers: Record<string, readonly [read: (text: string) => unknown, begins: string[]]> = {
  'an edit list': [
    (text) => readEdl(text, '25', 0),
    ['', '* FROM CLIP NAME:', '* FROM', '* LOC:', '* LOC: 01:00:00:00', '001 AX V C 0', 'FCM:'],
  ],
  'a table of places': [
    (text) => readList({ name: 'x.csv', bytes: encode(text) }, song, maps, false, 'bars'),
    ['', 'kind,position,value\n', 'position,value\n1,"', 'seconds,value\n', 'timecode;value\n'],
  ],
  'a list by its first line': [
    (text) => readList({ name: 'x.txt', bytes: encode(text) }, song, maps, false),
    ['', 'TITLE:', '#,Name\n', 'marker\t1.1\t'],
  ],
  'chords as typed': [(text) => readTyped(text, meters, 1), ['', 'C', 'Dm7 | ', '| ', 'end ']],
  'a chord': [readChord, ['', 'C', 'Cmaj7(', 'G7/', 'N.C.']],
  'a chord among texts': [chordIn, ['', 'chord:', 'chord']],
  'an instrument file': [
    (text) => readInstruments(encode(text)),
    ['', '<?xml version="1.0"?><!DOCTYPE MIDINameDocument ', '<MIDINameDocument>', '<!--', '{"'],
  ],
  'a timecode': [(text) => parseTimecode(text, '25'), ['', '01:', '01:00:00:00']],
  'a position': [parsePosition, ['', '1.', '1.1.']],
  seconds: [parseSeconds, ['', '1:', '1.']],
  'a tempo': [parseBpm, ['', '1', '120 b']],
  'a key': [(text) => parseKeyName(text), ['', 'C', 'C#']],
  'a key signature': [parseKeySignature, ['', 'C ', 'Eb min']],
  'the ends of a name': [(text) => [trimEnd(text, '. '), trimEnds(text, '. ')], ['', 'x', '. x']],
};
const fillers = [' ', '\t', '\u2028', '\n', '\r', '1', 'a', '.', ',', ';', ':', '"', '|', '/'];
const more = ['*', '#', 'b', '(', '<', '&', '[', ' \n', '1 ', '1:', ', ', ' |', '. ', '<a>', '- '];
const ends = ['', '!', 'x y', 'x\u2028y', '\u2028x\u2028y', 'x\n', '"'];

describe('text from outside is read in a time that grows with its length: four times as much', () => {
  it.each(Object.entries(readers))('%s', (_, [read, begins]) => {
    for (const begin of begins)
      for (const filler of [...fillers, ...more])
        for (const end of ends) {
          const text = (n: number): string => begin + filler.repeat(n / filler.length) + end;
          const [small, large] = [text(1000), text(4000)];
          const ratio = costRatio(
            () => read(small),
            () => read(large),
            fourfoldLimit,
          );
          expect(ratio, JSON.stringify([begin, filler, end])).toBeLessThan(fourfoldLimit);
        }
  });
});
