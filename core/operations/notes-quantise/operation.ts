import { z } from 'zod';
import { barTick, meterAt, meterMap, type MeterMap } from '../../timing/meter-map.ts';
import { timingOf } from '../../timing/timing.ts';
import { feels, noteValues, valueTicks } from '../shared/note-values.ts';
import { defineOperation } from '../operation.ts';
import { retimeNotes } from '../shared/retime.ts';
import { counted, inTracks, rewriteTracks, totalOf } from '../shared/rewrite.ts';

/** Places are held against each other to a millionth of a tick: halves stay halves whatever sums made them. */
const exact = (ticks: number): number => Math.round(ticks * 1e6) / 1e6;

/**
 * Nearest line of the grid that begins anew with every bar; every other line is moved by the swing. A bar line is always on it, also where
 * another meter cuts the bar short. Half way between two lines the earlier one is the nearest.
 */
export function nearestLine(map: MeterMap, tick: number, step: number, swing: number): number {
  const span = meterAt(map, tick);
  const number = Math.floor((tick - span.atTick) / span.barTicks);
  const bar = span.atTick + number * span.barTicks;
  const length = Math.min(span.barTicks, barTick(map, span.bar + number + 1) - bar);
  const line = (n: number): number => Math.min(length, (n - (n % 2)) * step + (n % 2) * 2 * step * (swing / 100));
  const near = Math.floor((tick - bar) / step);
  let best = 0;
  for (let n = Math.max(0, near - 1); n <= near + 2; n++) if (exact(Math.abs(bar + line(n) - tick)) < exact(Math.abs(bar + best - tick))) best = line(n);
  return exact(bar + best);
}

export const notesQuantise = defineOperation({
  id: 'notes.quantise',
  version: 1,
  title: 'Quantise',
  summary: 'Draws notes to a grid that begins anew with every bar, by as much as the strength says; half way between two lines the earlier counts.',
  group: 'notes',
  scope: 'events',
  settings: z.strictObject({
    grid: z.enum(noteValues).default('1/16').meta({ title: 'Grid' }),
    feel: z.enum(feels).default('straight').meta({ title: 'Feel' }),
    what: z.enum(['starts', 'ends', 'both']).default('starts').meta({ title: 'What moves', description: 'With starts alone, notes keep their length.' }),
    strength: z.int().min(1).max(100).default(100).meta({ title: 'Strength', unit: 'percent' }),
    window: z.int().min(1).max(100).default(100).meta({ title: 'Window', unit: 'percent of half a step', description: 'Only notes as near to a line as this move.' }),
    swing: z.int().min(50).max(75).default(50).meta({ title: 'Swing', unit: 'percent', description: '50 is even, 67 a triplet shuffle.' }),
  }),
  apply(song, { grid, feel, what, strength, window, swing }, scope) {
    const map = meterMap(timingOf(song).meters, song.division);
    const step = valueTicks(grid, feel, song.division);
    const drawn = (tick: number): number => {
      const away = nearestLine(map, tick, step, swing) - tick;
      return window < 100 && exact(Math.abs(away)) > exact((step / 2) * (window / 100)) ? tick : exact(tick + (away * strength) / 100);
    };
    return rewriteTracks(song, scope, (events, span) =>
      retimeNotes(events, span, ({ from, to }) => {
        if (what === 'ends') return { from, to: Math.max(from + 1, drawn(to)) };
        const start = drawn(from);
        // A note never comes to nothing: an end drawn onto its own start goes one step further.
        const end = what === 'starts' ? to + Math.round(start) - from : drawn(to);
        return { from: start, to: end > start ? end : start + Math.min(step, Math.max(1, to - from)) };
      }),
    );
  },
  describe: ({ grid, feel, strength }, report) => `Quantised ${counted(totalOf(report), 'note')} ${inTracks(report)} to ${grid}${feel === 'straight' ? '' : ` ${feel}`}${strength < 100 ? `, ${strength} %` : ''}`,
  examples: [{ says: 'To sixteenths', settings: {} }, { says: 'Half way to a shuffle', settings: { grid: '1/8', strength: 50, swing: 67 } }, { says: 'Both ends to triplets', settings: { grid: '1/8', feel: 'triplet', what: 'both' } }],
});
