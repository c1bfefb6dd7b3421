import { z } from 'zod';
import { isSwitch, lanesOf, type Lane } from '../lanes.ts';
import { counted, inTracks, rewriteTracks, totalOf, within, without } from '../rewrite.ts';
import { defineOperation } from '../operation.ts';
import { lost } from '../events-remove/operation.ts';
import { thinned } from './thin.ts';

/** Which lanes are meant: those named, or all. */
const meant = (lane: Lane, controllers: readonly number[], bend: boolean, pressure: boolean): boolean =>
  typeof lane.what === 'number' ? controllers.length === 0 || controllers.includes(lane.what) : lane.what === 'bend' ? bend : pressure;

export const controllersThin = defineOperation({
  id: 'controllers.thin',
  version: 1,
  title: 'Thin controllers',
  summary: 'Leaves out controller values that repeat the one before, or that stay within a stated error of it; the last value of a lane always stays.',
  group: 'controllers',
  scope: 'events',
  settings: z.strictObject({
    error: z.int().min(0).max(32).default(0).meta({ title: 'Largest error', unit: 'steps of 127', description: '0 leaves out repeats only.' }),
    controllers: z.array(z.int().min(0).max(119)).max(120).default([]).meta({ title: 'Controllers', description: 'Their numbers; all where none is named.' }),
    bend: z.boolean().default(true).meta({ title: 'Pitch bend too' }),
    pressure: z.boolean().default(true).meta({ title: 'Channel pressure too' }),
  }),
  apply(song, { error, controllers, bend, pressure }, scope) {
    return rewriteTracks(song, scope, (events, span) => {
      const dropped = new Set<number>();
      for (const lane of lanesOf(events)) {
        if (!meant(lane, controllers, bend, pressure)) continue;
        const inSpan = lane.rows.map((row, n) => ({ row, n })).filter(({ row }) => within(span, events.atTick[row]!));
        // A bend has 128 times the steps of a controller; a switch means only on and off.
        const bound = isSwitch(lane.what) ? 0 : lane.what === 'bend' ? error * 128 : error;
        const keep = thinned(inSpan.map(({ n }) => (isSwitch(lane.what) ? Number(lane.values[n]! >= 64) : lane.values[n]!)), bound);
        inSpan.forEach(({ row }, i) => !keep[i] && dropped.add(row));
      }
      const kept = without(events, (i) => dropped.has(i));
      if (!kept) return { left: 'Every value of its controllers says something.' };
      return { events: kept, counts: lost(events, kept) };
    });
  },
  describe: ({ error }, report) => `Thinned controllers ${inTracks(report)}: ${counted(totalOf(report), 'event')} left out${error > 0 ? `, error at most ${error}` : ''}`,
  examples: [{ says: 'Repeats only', settings: {} }, { says: 'A flood of expression, at most 2 off', settings: { error: 2, controllers: [11] } }],
});
