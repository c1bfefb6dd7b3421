import { z } from 'zod';
import { rekeyed, rekeyWords } from '../../../edit/rekey.ts';
import { switchesIn, switchWords } from '../../../edit/switches.ts';
import { counted, inTracks, rewriteTracks, totalOf, within } from '../../../edit/rewrite.ts';
import { pitchesOf, type Chord } from '../../../harmony/chord.ts';
import { chordLineOf, type LineChord } from '../../../harmony/chord-line.ts';
import { inForceAt } from '../../../harmony/in-force.ts';
import { asBass, byDegree, toNearestTones } from '../../../harmony/fit-to-chord.ts';
import { pitchedNotes } from '../../../harmony/pitched-notes.ts';
import { harmonyOfTracks, type ToldChord } from '../../../harmony/told.ts';
import { groupsOf } from '../../../harmony/voicings.ts';
import { pitchClass } from '../../../harmony/spelling.ts';
import { ok } from '../../../problems/problems.ts';
import { notesOf } from '../../../song/notes.ts';
import { quarterTicks } from '../../../timing/meter-map.ts';
import { defineOperation } from '../../operation.ts';

/** A note that begins so little before a chord, in quarters, is meant for it. */
const early = 1 / 4;

export const chordsApply = defineOperation({
  id: 'chords.apply',
  version: 1,
  title: 'Fit to the chord line',
  summary:
    'Brings the notes of parts to the chords of the chord line: each to the nearest tone, the notes of a chord in their order, or degree by degree.',
  group: 'chords',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    by: z.enum(['nearest tones', 'degrees']).default('nearest tones').meta({
      title: 'By',
      description:
        'Degrees: the third of the chord that is told there now becomes the third of the new one.',
    }),
    which: z.enum(['all notes', 'notes on beats']).default('all notes').meta({
      title: 'Which notes',
      description: 'Notes between the beats may pass through other tones.',
    }),
    bass: z.boolean().default(false).meta({
      title: 'The lowest note to the bass of the chord',
      description: 'For bass lines: it goes to the root, or what stands behind the slash.',
    }),
  }),
  apply(song, { by, which, bass }, scope) {
    const line = chordLineOf(song).filter((c) => c.readable);
    if (!line.some((c) => c.chord))
      return ok({
        song,
        report: {
          changes: [],
          skipped: [
            { why: 'The song has no chord line: type chords, or take them from what sounds.' },
          ],
        },
      });
    const quarter = quarterTicks(song.division);
    return rewriteTracks(song, scope, (events, span, track) => {
      const pitched = pitchedNotes(track, quarter);
      const groups = groupsOf(track, quarter, span);
      if (groups.length === 0) return { left: 'It has no pitched notes there.' };
      const told = by === 'degrees' ? harmonyOfTracks(song, [track]).chords : [];
      const byRow = new Map(Array.from(notesOf(events).on, (row, n) => [row, n]));
      const keyOf = new Map<number, number>();
      let [held, silent] = [0, 0];
      for (const { atTick, toTick, notes } of groups) {
        const chord = meantFor(line, atTick, quarter);
        if (!chord) {
          silent += notes.length;
          continue;
        }
        if (which === 'notes on beats' && !onBeat(atTick, quarter)) continue;
        const begun = inForceAt(line, atTick + quarter * early);
        if (inForceAt(line, toTick - quarter * early) !== begun) held++;
        const keys = [...new Set(notes.map((n) => pitched.key[n]!))];
        const target = fitted(
          keys,
          chord,
          bass,
          by === 'degrees' ? oldChord(told, atTick) : undefined,
        );
        for (const n of notes)
          keyOf.set(byRow.get(pitched.row[n]!)!, target[keys.indexOf(pitched.key[n]!)]!);
      }
      const notes = notesOf(events);
      const done = rekeyed(
        events,
        (n) => keyOf.get(n) ?? events.data1[notes.on[n]!]!,
        (row) => within(span, events, row),
      );
      const silentWords = silent > 0 && `${counted(silent, 'note')} where the line has no chord`;
      if (done.moved + done.together === 0)
        return {
          left:
            silent > 0 && keyOf.size === 0
              ? 'The chord line has no chord there.'
              : 'Its notes are tones of the chords already.',
        };
      const detail = [
        silentWords && `${silentWords} stay`,
        held > 0 && `${counted(held, 'time')} notes last into the next chord`,
        rekeyWords(done),
        switchWords(switchesIn(track, span).length, false),
      ].filter(Boolean);
      return {
        events: done.events,
        counts: { note: done.moved + done.together },
        ...(detail.length > 0 ? { detail: detail.join(', ') } : {}),
      };
    });
  },
  describe: ({ by }, report) =>
    `Fitted ${counted(totalOf(report), 'note')} ${inTracks(report)} to the chord line, by ${by}`,
  examples: [
    { says: 'To the nearest tones', settings: {} },
    { says: 'Degree by degree', settings: { by: 'degrees' } },
    {
      says: 'A bass line: on the beats, to the bass of the chords',
      settings: { bass: true, which: 'notes on beats' },
    },
  ],
});

/** The chord that a note is meant for: what is in force, or what comes at once. */
function meantFor(line: readonly LineChord[], tick: number, quarter: number): Chord | undefined {
  const coming = inForceAt(line, tick + quarter * early);
  return coming && coming.atTick > tick && coming.chord
    ? coming.chord
    : inForceAt(line, tick)?.chord;
}

const onBeat = (tick: number, quarter: number): boolean => {
  const off = tick % quarter;
  return Math.min(off, quarter - off) <= quarter / 16;
};

const oldChord = (told: readonly ToldChord[], tick: number): Chord | undefined =>
  inForceAt(told, tick)?.chord;

/** New keys of notes that begin together, from the lowest up. */
function fitted(
  keys: readonly number[],
  chord: Chord,
  bass: boolean,
  from: Chord | undefined,
): readonly number[] {
  const tones = chord.quality.tones.map((t) => pitchClass(chord.root + t));
  const near = toNearestTones(keys, bass ? tones : pitchesOf(chord));
  const wanted = from ? keys.map((key, n) => byDegree(key, from, chord) ?? near[n]!) : near;
  // Degrees may fall on one key, or cross: then the nearest tones are taken.
  const now = new Set(wanted).size === wanted.length ? [...wanted] : [...near];
  if (bass) now[0] = asBass(keys[0]!, chord);
  return now;
}
