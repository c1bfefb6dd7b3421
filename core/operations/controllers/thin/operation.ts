import { z } from 'zod';
import { stretches } from '../../../edit/heard.ts';
import { freeLanes, isSwitch } from '../../../song/lanes.ts';
import { lost } from '../../../edit/event-kinds.ts';
import { defineOperation } from '../../operation.ts';
import { isNamed, lanesSetting } from '../../../edit/lane-settings.ts';
import {
  counted,
  inTracks,
  rewriteTracks,
  totalOf,
  within,
  without,
} from '../../../edit/rewrite.ts';
import { setLaneValue } from '../../../edit/shape-lanes.ts';
import { thinned } from '../../../edit/thin.ts';

export const controllersThin = defineOperation({
  id: 'controllers.thin',
  version: 3,
  title: 'Thin controllers',
  summary:
    'Leaves out controller values that repeat the one before, or keeps lanes within a stated error with the fewest values; the first and the last value of a lane stay.',
  group: 'controllers',
  scope: 'events',
  settings: z.strictObject({
    error: z.int().min(0).max(32).default(0).meta({
      title: 'Largest error',
      unit: 'steps of 127',
      description: '0 leaves out repeats only.',
    }),
    lanes: lanesSetting,
  }),
  apply(song, { error, lanes }, scope) {
    return rewriteTracks(song, scope, (events, span, track) => {
      const columns = { data1: events.data1.slice(), data2: events.data2.slice() };
      const dropped = new Uint8Array(events.count);
      for (const lane of freeLanes(track)) {
        if (!isNamed(lanes, lane.what)) continue;
        // A bend has 128 times the steps of a controller; a switch means only on and off.
        const bound = isSwitch(lane.what) ? 0 : lane.what === 'bend' ? error * 128 : error;
        // A value that comes again behind a reset says something.
        for (const stretch of stretches(song, events, lane)) {
          const at = stretch.filter((n) => within(span, events, lane.rows[n]!));
          const { keep, values } = thinned(
            at.map((n) => (isSwitch(lane.what) ? Number(lane.values[n]! >= 64) : lane.values[n]!)),
            bound,
          );
          at.forEach((n, i) => {
            const row = lane.rows[n]!;
            if (!keep[i]) dropped[row] = 1;
            else if (!isSwitch(lane.what)) setLaneValue(columns, row, lane.what, values[i]!);
          });
        }
      }
      const kept = without({ ...events, ...columns }, (i) => dropped[i] === 1);
      if (!kept) return { left: 'Every value of its controllers says something.' };
      return { events: kept, counts: lost(events, kept) };
    });
  },
  describe: ({ error }, report) =>
    `Thinned controllers ${inTracks(report)}: ${counted(totalOf(report), 'event')} left out${error > 0 ? `, error at most ${error}` : ''}`,
  examples: [
    { says: 'Repeats only', settings: {} },
    { says: 'A flood of expression, at most 2 off', settings: { error: 2, lanes: [11] } },
  ],
});
