import { z } from 'zod';
import { eventsFrom } from '../../../smf/event-builder.ts';
import { mergeEvents } from '../../../smf/merge.ts';
import { laneKey } from '../../../song/lanes.ts';
import { channelsOf } from '../../../song/song.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { laneWords, shapedLane } from '../../../edit/lane-settings.ts';
import { counted, inTracks, rewriteTracks, totalOf, inTicks } from '../../../edit/rewrite.ts';
import { laneEvent, laneTop, withoutLane } from '../../../edit/shape-lanes.ts';
import { defineOperation } from '../../operation.ts';
import { curves, curvePoints } from './curve.ts';

export const controllersDraw = defineOperation({
  id: 'controllers.draw',
  version: 2,
  title: 'Draw a controller curve',
  summary:
    'Writes a ramp or curve into a lane over the bars of the scope, in place of what the lane says there, with no more values than it needs.',
  group: 'controllers',
  scope: 'events',
  settings: z.strictObject({
    lane: shapedLane.default(11).meta({ title: 'Lane', offers: 'lane' }),
    from: z.int().min(0).max(127).default(40).meta({ title: 'From' }),
    to: z.int().min(0).max(127).default(110).meta({ title: 'To' }),
    curve: z.enum(curves).default('straight').meta({ title: 'Curve' }),
    error: z.int().min(0).max(16).default(0).meta({
      title: 'Largest error',
      unit: 'steps of 127',
      description: '0 says every value on the way.',
    }),
  }),
  apply(song, { lane, from, to, curve, error }, scope) {
    const end = timingOf(song).endTick;
    return rewriteTracks(song, scope, (events, span, track) => {
      const channel = channelsOf(events)[0];
      if (channel === undefined) return { left: 'It plays on no channel.' };
      if (track.parked?.includes(laneKey(channel, lane)))
        return { left: `Its ${laneWords(lane)} is parked: unpark it first.` };
      // The first tick of the next bar is not drawn over.
      const upTo = Math.min(span.to - 1, end);
      if (upTo < span.from) return { left: 'There are no bars to draw over.' };
      const unit = lane === 'bend' ? 128 : 1;
      // 127 reaches the very top of a bend, 64 its very centre.
      const full = (v: number): number => (lane === 'bend' && v === 127 ? laneTop(lane) : v * unit);
      const points = curvePoints(
        { from: span.from, to: upTo },
        full(from),
        full(to),
        curve,
        error * unit + (unit > 1 ? 32 : 0),
      );
      const written = eventsFrom(
        points.map(({ atTick, value }) => laneEvent(atTick, channel, lane, value)),
      );
      const { rest, gone } = withoutLane(events, channel, lane, (tick) =>
        inTicks({ from: span.from, to: upTo + 1 }, tick),
      );
      return {
        events: mergeEvents([written, rest]),
        counts: { [typeof lane === 'number' ? 'controller' : lane]: points.length },
        ...(gone > 0 ? { detail: `in place of ${counted(gone, 'value')}` } : {}),
      };
    });
  },
  describe: ({ lane, from, to }, report) =>
    `Drew ${laneWords(lane)} from ${from} to ${to} ${inTracks(report)}: ${counted(totalOf(report), 'value')}`,
  examples: [
    { says: 'Expression swells over the song', settings: {} },
    {
      says: 'Volume fades out',
      settings: { lane: 7, from: 100, to: 0, curve: 'ease out', error: 1 },
    },
  ],
});
