import { z } from 'zod';
import { counted, inTracks, rewriteTracks, totalOf } from '../../../edit/rewrite.ts';
import { retimeNotes } from '../../../edit/retime.ts';
import { defineOperation } from '../../operation.ts';

export const notesNudge = defineOperation({
  id: 'notes.nudge',
  version: 1,
  title: 'Nudge notes in time',
  summary:
    'Moves every note of the scope earlier or later by the same number of ticks, such as a part that lies behind the beat throughout.',
  group: 'notes',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    ticks: z.int().min(-100_000).max(100_000).default(0).meta({
      title: 'Later by',
      unit: 'ticks',
      description: 'Negative: earlier. Nothing goes before the beginning.',
    }),
  }),
  apply: (song, { ticks }, scope) =>
    rewriteTracks(song, scope, (events, span) =>
      retimeNotes(events, span, ({ from, to }) => ({
        from: Math.max(0, from + ticks),
        to: Math.max(0, from + ticks) + to - from,
      })),
    ),
  describe: ({ ticks }, report) =>
    `Nudged ${counted(totalOf(report), 'note')} ${inTracks(report)} ${counted(Math.abs(ticks), 'tick')} ${ticks < 0 ? 'earlier' : 'later'}`,
  examples: [{ says: 'A part that came in late', settings: { ticks: -12 } }],
});
