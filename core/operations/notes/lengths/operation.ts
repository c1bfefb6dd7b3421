import { z } from 'zod';
import { notesOf } from '../../../song/notes.ts';
import type { Events } from '../../../smf/events.ts';
import { feels, noteValues, valueTicks } from '../../../edit/note-values.ts';
import { defineOperation } from '../../operation.ts';
import { retimeNotes } from '../../../edit/retime.ts';
import { counted, inTracks, rewriteTracks, totalOf } from '../../../edit/rewrite.ts';

export const notesLengths = defineOperation({
  id: 'notes.lengths',
  version: 1,
  title: 'Change lengths',
  summary:
    'Makes notes longer or shorter: by a factor, to a note value, at least or at most that, up to the next note, or no longer than until it.',
  group: 'notes',
  scope: 'events',
  settings: z.strictObject({
    how: z
      .enum(['scale', 'exactly', 'at least', 'at most', 'legato', 'until the next'])
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
  }),
  apply(song, { how, percent, value, feel }, scope) {
    const length = valueTicks(value, feel, song.division);
    return rewriteTracks(song, scope, (events, span) => {
      const next = how === 'legato' || how === 'until the next' ? nextStart(events) : undefined;
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
    { says: 'No shorter than an eighth', settings: { how: 'at least', value: '1/8' } },
  ],
});

/** For each note-on row the tick of the next note that begins later on its channel. */
function nextStart(events: Events): Map<number, number> {
  const notes = notesOf(events);
  const next = new Map<number, number>();
  const following = new Array<number | undefined>(16);
  const later = new Array<number | undefined>(16);
  for (let n = notes.count - 1; n >= 0; n--) {
    const on = notes.on[n]!;
    const channel = events.status[on]! & 15;
    const tick = events.atTick[on]!;
    // Notes of one chord all reach to the next one.
    if (following[channel] !== tick) {
      later[channel] = following[channel];
      following[channel] = tick;
    }
    if (later[channel] !== undefined) next.set(on, later[channel]);
  }
  return next;
}
