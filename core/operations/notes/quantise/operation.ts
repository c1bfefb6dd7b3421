import { z } from 'zod';
import { exactTicks } from '../../../edit/exact-ticks.ts';
import { nearestLine } from '../../../edit/nearest-line.ts';
import { meterMap } from '../../../timing/meter-map.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { feels, noteValues, valueTicks } from '../../../edit/note-values.ts';
import { defineOperation } from '../../operation.ts';
import { retimeNotes } from '../../../edit/retime.ts';
import { counted, inTracks, rewriteTracks, totalOf } from '../../../edit/rewrite.ts';

export const notesQuantise = defineOperation({
  id: 'notes.quantise',
  version: 1,
  title: 'Quantise',
  summary:
    'Draws notes to a grid that begins anew with every bar, by as much as the strength says; half way between two lines the earlier counts.',
  group: 'notes',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    grid: z.enum(noteValues).default('1/16').meta({ title: 'Grid' }),
    feel: z.enum(feels).default('straight').meta({ title: 'Feel' }),
    what: z
      .enum(['starts', 'ends', 'both'])
      .default('starts')
      .meta({ title: 'What moves', description: 'With starts alone, notes keep their length.' }),
    strength: z.int().min(1).max(100).default(100).meta({ title: 'Strength', unit: 'percent' }),
    window: z.int().min(1).max(100).default(100).meta({
      title: 'Window',
      unit: 'percent of half a step',
      description: 'Only notes as near to a line as this move.',
    }),
    swing: z
      .int()
      .min(50)
      .max(75)
      .default(50)
      .meta({ title: 'Swing', unit: 'percent', description: '50 is even, 67 a triplet shuffle.' }),
  }),
  apply(song, { grid, feel, what, strength, window, swing }, scope) {
    const map = meterMap(timingOf(song).meters, song.division);
    const step = valueTicks(grid, feel, song.division);
    const drawn = (tick: number): number => {
      const away = nearestLine(map, tick, step, swing) - tick;
      return window < 100 && exactTicks(Math.abs(away)) > exactTicks((step / 2) * (window / 100))
        ? tick
        : exactTicks(tick + (away * strength) / 100);
    };
    return rewriteTracks(song, scope, (events, span) =>
      retimeNotes(events, span, ({ from, to }) => {
        if (what === 'ends') return { from, to: Math.max(from + 1, drawn(to)) };
        const start = drawn(from);
        // A note never comes to nothing: an end drawn onto its own start goes one step further.
        const end = what === 'starts' ? to + Math.round(start) - from : drawn(to);
        return {
          from: start,
          to: end > start ? end : start + Math.min(step, Math.max(1, to - from)),
        };
      }),
    );
  },
  describe: ({ grid, feel, strength }, report) =>
    `Quantised ${counted(totalOf(report), 'note')} ${inTracks(report)} to ${grid}${feel === 'straight' ? '' : ` ${feel}`}${strength < 100 ? `, ${strength} %` : ''}`,
  examples: [
    { says: 'To sixteenths', settings: {} },
    { says: 'Half way to a shuffle', settings: { grid: '1/8', strength: 50, swing: 67 } },
    { says: 'Both ends to triplets', settings: { grid: '1/8', feel: 'triplet', what: 'both' } },
  ],
});
