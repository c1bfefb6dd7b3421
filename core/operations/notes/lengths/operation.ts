import { z } from 'zod';
import { notesOf } from '../../../song/notes.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { secondsToExactTicks, tempoMap, ticksToSeconds } from '../../../timing/tempo-map.ts';
import type { Events } from '../../../smf/events.ts';
import { feels, noteValues, valueTicks } from '../../../edit/note-values.ts';
import { defineOperation } from '../../operation.ts';
import { retimeNotes } from '../../../edit/retime.ts';
import { counted, inTracks, rewriteTracks, totalOf } from '../../../edit/rewrite.ts';

export const notesLengths = defineOperation({
  id: 'notes.lengths',
  version: 2,
  title: 'Change lengths',
  summary:
    'Makes notes longer or shorter: by a factor, to a note value, at least or at most that, up to the next note, no longer than until it, or apart from the next of its key.',
  group: 'notes',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    how: z
      .enum([
        'scale',
        'exactly',
        'at least',
        'at most',
        'legato',
        'until the next',
        'apart from the next of its key',
      ])
      .default('scale')
      .meta({ title: 'How' }),
    percent: z
      .int()
      .min(1)
      .max(800)
      .default(90)
      .meta({ title: 'Scale', unit: 'percent', description: 'For scale and legato.' }),
    value: z.enum(noteValues).default('1/16').meta({ title: 'Note value' }),
    feel: z.enum(feels).default('straight').meta({ title: 'Feel' }),
    gap: z.number().min(0.1).max(1000).default(10).meta({
      title: 'Gap',
      unit: 'ms',
      description: 'Before the next note of its key.',
    }),
  }),
  apply(song, { how, percent, value, feel, gap }, scope) {
    const length = valueTicks(value, feel, song.division);
    const map = tempoMap(timingOf(song).tempos, song.division);
    const before = (tick: number): number =>
      Math.floor(secondsToExactTicks(map, ticksToSeconds(map, tick) - gap / 1000) + 1e-6);
    return rewriteTracks(song, scope, (events, span) => {
      if (how === 'apart from the next of its key') {
        const repeats = nextStart(events, keyAt);
        return retimeNotes(events, span, ({ from, to }, index) => {
          const next = repeats.get(index);
          return { from, to: next === undefined ? to : Math.min(to, before(next)) };
        });
      }
      const next =
        how === 'legato' || how === 'until the next' ? nextStart(events, channelAt) : undefined;
      return retimeNotes(events, span, ({ from, to }, index) => {
        if (how === 'scale') return { from, to: from + ((to - from) * percent) / 100 };
        if (how === 'exactly') return { from, to: from + length };
        if (how === 'at least') return { from, to: Math.max(to, from + length) };
        if (how === 'at most') return { from, to: Math.min(to, from + length) };
        const follows = next!.get(index);
        if (how === 'until the next') return { from, to: Math.min(to, follows ?? to) };
        return { from, to: follows === undefined ? to : from + ((follows - from) * percent) / 100 };
      });
    });
  },
  describe: ({ how }, report) =>
    `Changed the length of ${counted(totalOf(report), 'note')} ${inTracks(report)} (${how})`,
  examples: [
    { says: 'A little shorter', settings: {} },
    { says: 'Legato', settings: { how: 'legato', percent: 100 } },
    { says: 'One note at a time: none lasts into the next', settings: { how: 'until the next' } },
    {
      says: 'Repeats stand apart, for instruments that strike a key again only after it was released',
      settings: { how: 'apart from the next of its key', gap: 20 },
    },
    { says: 'No shorter than an eighth', settings: { how: 'at least', value: '1/8' } },
  ],
});

/** Channel of a note-on row, and channel and key. */
const channelAt = ({ status }: Events, on: number): number => status[on]! & 15;
const keyAt = (events: Events, on: number): number =>
  (channelAt(events, on) << 7) | events.data1[on]!;

/** For each note-on row the tick of the next note that begins later on its channel, or on its key. */
function nextStart(
  events: Events,
  slotOf: (events: Events, on: number) => number,
): Map<number, number> {
  const notes = notesOf(events);
  const next = new Map<number, number>();
  const following = new Map<number, number>();
  const later = new Map<number, number>();
  for (let n = notes.count - 1; n >= 0; n--) {
    const on = notes.on[n]!;
    const slot = slotOf(events, on);
    const tick = events.atTick[on]!;
    const follows = following.get(slot);
    // Notes of one chord all reach to the next one.
    if (follows !== tick) {
      if (follows !== undefined) later.set(slot, follows);
      following.set(slot, tick);
    }
    const reached = later.get(slot);
    if (reached !== undefined) next.set(on, reached);
  }
  return next;
}
