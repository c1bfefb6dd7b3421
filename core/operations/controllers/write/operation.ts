import { z } from 'zod';
import { refused } from '../../../problems/problems.ts';
import { eventsFrom } from '../../../smf/event-builder.ts';
import { mergeEvents } from '../../../smf/merge.ts';
import { sameEvents } from '../../../smf/compare.ts';
import { defineOperation } from '../../operation.ts';
import { laneWords, shapedLane } from '../../../edit/lane-settings.ts';
import { trackIdSetting, tracksFault } from '../../../edit/named-rows.ts';
import { laneKey } from '../../../song/lanes.ts';
import { counted, inTracks, rewriteTracks, totalOf } from '../../../edit/rewrite.ts';
import { laneEvent, laneTop, withoutLane } from '../../../edit/shape-lanes.ts';

const tick = z.int().min(0).max(1_000_000_000_000);

export const controllersWrite = defineOperation({
  id: 'controllers.write',
  version: 1,
  title: 'Write controller values',
  summary:
    'Puts drawn values into a lane in place of what it says between two ticks; no values erase it there.',
  group: 'controllers',
  scope: 'song',
  settings: z
    .strictObject({
      track: trackIdSetting.meta({ title: 'Track' }),
      channel: z.int().min(1).max(16).meta({ title: 'Channel' }),
      lane: shapedLane.meta({ title: 'Lane' }),
      from: tick.meta({ title: 'From', unit: 'ticks' }),
      to: tick.meta({ title: 'Up to, not including', unit: 'ticks' }),
      points: z
        .array(z.tuple([tick, z.int().min(0).max(16_383)]))
        .max(50_000)
        .default([])
        .meta({
          title: 'Values',
          description: 'Pairs of tick and value; bend 0 to 16383 with 8192 its centre.',
        }),
    })
    .refine(({ from, to }) => from < to, { message: 'a beginning before the end', path: ['from'] })
    .refine(({ from, to, points }) => points.every(([t]) => t >= from && t < to), {
      message: 'values between the beginning and the end',
      path: ['points'],
    })
    .refine(({ lane, points }) => points.every(([, v]) => v <= laneTop(lane)), {
      message: 'values that the lane can say',
      path: ['points'],
    }),
  byHand: true,
  apply(song, { track: id, channel, lane, from, to, points }) {
    const fault = tracksFault(song, [id], 'settings.track');
    if (fault) return fault;
    const said = new Map(points);
    if (said.size < points.length)
      return refused({
        code: 'settings-invalid',
        where: { field: 'settings.points' },
        expected: 'one value a tick',
        found: 'two on one tick',
      });
    return rewriteTracks(song, { tracks: [id] }, (events, _, track) => {
      const written = eventsFrom(
        points.map(([atTick, value]) => laneEvent(atTick, channel - 1, lane, value)),
      );
      const { rest, gone } = withoutLane(events, channel - 1, lane, (t) => t >= from && t < to);
      const after = mergeEvents([written, rest]);
      if (sameEvents(events, after))
        return {
          left:
            points.length === 0 ? 'The lane says nothing there.' : 'The lane says this already.',
        };
      const detail = [
        gone > 0 && `in place of ${counted(gone, 'value')}`,
        track.parked?.includes(laneKey(channel - 1, lane)) &&
          'the lane is parked, so this is neither played nor sent until it is unparked',
      ]
        .filter(Boolean)
        .join('; ');
      return {
        events: after,
        counts: { [typeof lane === 'number' ? 'controller' : lane]: Math.max(points.length, gone) },
        ...(detail ? { detail } : {}),
      };
    });
  },
  describe: ({ lane, points }, report) =>
    `${points.length === 0 ? 'Erased' : 'Drew'} ${laneWords(lane)} ${inTracks(report)}: ${counted(totalOf(report), 'value')}`,
  examples: [
    {
      says: 'Two values of expression',
      settings: {
        track: 't1',
        channel: 1,
        lane: 11,
        from: 0,
        to: 96,
        points: [
          [0, 40],
          [48, 90],
        ],
      },
    },
  ],
});
