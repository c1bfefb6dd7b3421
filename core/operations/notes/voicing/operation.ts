import { z } from 'zod';
import { gone, rekeyed, rekeyWords } from '../../../edit/rekey.ts';
import { switchesIn, switchWords } from '../../../edit/switches.ts';
import { counted, inTracks, rewriteTracks, totalOf, within } from '../../../edit/rewrite.ts';
import { chordsOfSong } from '../../../harmony/chord-at.ts';
import type { Chord } from '../../../harmony/chord.ts';
import { bitsOf, namesOf } from '../../../harmony/name-tones.ts';
import { pitchedNotes } from '../../../harmony/pitched-notes.ts';
import {
  closed,
  dropped,
  inverted,
  opened,
  thinned,
  type NewKeys,
} from '../../../harmony/revoice.ts';
import { pitchClass } from '../../../harmony/spelling.ts';
import { groupsOf } from '../../../harmony/voicings.ts';
import { notesOf } from '../../../song/notes.ts';
import { quarterTicks } from '../../../timing/meter-map.ts';
import { defineOperation } from '../../operation.ts';

const hows = [
  'thin',
  'invert up',
  'invert down',
  'close',
  'open',
  'drop the second voice',
  'octave up',
  'octave down',
] as const;
type How = (typeof hows)[number];

export const notesVoicing = defineOperation({
  id: 'notes.voicing',
  version: 1,
  title: 'Voice chords otherwise',
  summary:
    'Inverts chords, opens or closes them, drops the second voice, moves them by octaves, or thins them to so many voices that keep the outermost and the guide tones.',
  group: 'notes',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    how: z.enum(hows).default('invert up').meta({
      title: 'How',
      description:
        'Invert up: the lowest note goes above the others. Open: every second note above the lowest goes up an octave. Close: all within an octave above the lowest.',
    }),
    voices: z.int().min(1).max(12).default(3).meta({
      title: 'Voices',
      description:
        'For thin: the outermost stay, then third and seventh, what stands above them, root and fifth.',
    }),
    times: z.int().min(1).max(6).default(1).meta({
      title: 'Times',
      description: 'For inversions and octaves.',
    }),
  }),
  apply(song, { how, voices, times }, scope) {
    const quarter = quarterTicks(song.division);
    const chordAt = chordsOfSong(song);
    return rewriteTracks(song, scope, (events, span, track) => {
      const pitched = pitchedNotes(track, quarter);
      const byRow = new Map(Array.from(notesOf(events).on, (row, n) => [row, n]));
      const keyOf = new Map<number, number>();
      let [chords, left] = [0, 0];
      for (const { atTick, notes } of groupsOf(track, quarter, span)) {
        const keys = [...new Set(notes.map((n) => pitched.key[n]!))];
        if (keys.length < 2) continue;
        const near = how === 'thin' ? chordOf(keys, chordAt(atTick)) : undefined;
        const now = revoiced(keys, how, voices, times, near);
        if (now.every((key, n) => key === keys[n])) continue;
        if (now.some((key) => key !== undefined && (key < 0 || key > 127))) {
          left++;
          continue;
        }
        chords++;
        const target = new Map(keys.map((key, n) => [key, now[n] ?? gone]));
        for (const n of notes) keyOf.set(byRow.get(pitched.row[n]!)!, target.get(pitched.key[n]!)!);
      }
      const leftWords =
        left > 0
          ? `${counted(left, 'chord')} left as they are: they would leave the keyboard`
          : undefined;
      if (chords === 0)
        return { left: leftWords ? `${leftWords}.` : 'It has no chords there that would change.' };
      const notes = notesOf(events);
      const done = rekeyed(
        events,
        (n) => keyOf.get(n) ?? events.data1[notes.on[n]!]!,
        (row) => within(span, events, row),
      );
      const detail = [
        counted(chords, 'chord'),
        done.out > 0 && `${counted(done.out, 'note')} taken out`,
        rekeyWords(done),
        switchWords(switchesIn(track, span).length, false),
        leftWords,
      ];
      return {
        events: done.events,
        counts: { note: done.moved + done.out + done.together },
        detail: detail.filter(Boolean).join(', '),
      };
    });
  },
  describe: ({ how, voices }, report) =>
    `Voiced chords otherwise ${inTracks(report)} (${how === 'thin' ? `${voices} voices` : how}): ${counted(totalOf(report), 'note')}`,
  examples: [
    { says: 'The next inversion', settings: {} },
    { says: 'Three voices', settings: { how: 'thin', voices: 3 } },
    { says: 'Open', settings: { how: 'open' } },
    { says: 'Close', settings: { how: 'close' } },
    { says: 'The second voice an octave lower', settings: { how: 'drop the second voice' } },
    { says: 'Two octaves lower', settings: { how: 'octave down', times: 2 } },
  ],
});

function revoiced(
  keys: readonly number[],
  how: How,
  voices: number,
  times: number,
  chord: Chord | undefined,
): NewKeys {
  switch (how) {
    case 'thin':
      return thinned(keys, voices, chord);
    case 'invert up':
      return inverted(keys, times);
    case 'invert down':
      return inverted(keys, -times);
    case 'close':
      return closed(keys);
    case 'open':
      return opened(keys);
    case 'drop the second voice':
      return dropped(keys);
    case 'octave up':
      return keys.map((key) => key + 12 * times);
    case 'octave down':
      return keys.map((key) => key - 12 * times);
  }
}

/** The chord that a voicing is of: the one that is said there, where it has most of the notes, else what the notes are. */
function chordOf(keys: readonly number[], said: Chord | undefined): Chord | undefined {
  const has = (chord: Chord): number =>
    keys.filter((key) => chord.quality.tones.includes(pitchClass(key - chord.root))).length;
  if (said && has(said) >= keys.length * 0.6) return said;
  return namesOf(bitsOf(keys), pitchClass(keys[0]!), said)[0]?.chord ?? said;
}
