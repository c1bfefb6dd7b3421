import { z } from 'zod';
import { eventsFrom } from '../../../smf/event-builder.ts';
import { endTick, type EventValue } from '../../../smf/events.ts';
import { mergeEvents } from '../../../smf/merge.ts';
import { freeLanes, laneDefault } from '../../../song/lanes.ts';
import { isNamed, laneList, lanesSetting } from '../../../edit/lane-settings.ts';
import { countKinds } from '../../../edit/event-kinds.ts';
import { counted, inTracks, rewriteTracks, totalOf } from '../../../edit/rewrite.ts';
import { laneEvent } from '../../../edit/shape-lanes.ts';
import { defineOperation } from '../../operation.ts';

export const controllersReset = defineOperation({
  id: 'controllers.reset',
  version: 1,
  title: 'Reset controllers',
  summary:
    'States the usual value of each lane at the start, at the end or both, so that a part begins and leaves as a fresh instrument would.',
  group: 'controllers',
  scope: 'tracks',
  settings: z.strictObject({
    lanes: lanesSetting,
    where: z.enum(['start', 'end', 'both']).default('both').meta({ title: 'Where' }),
  }),
  apply(song, { lanes, where }, scope) {
    return rewriteTracks(song, scope, (events, _, track) => {
      const added: EventValue[] = [];
      for (const lane of freeLanes(track)) {
        const usual = laneDefault(lane.what);
        if (usual === undefined || !isNamed(lanes, lane.what)) continue;
        const firstTick = events.atTick[lane.rows[0]!]!;
        if (where !== 'end' && firstTick > 0)
          added.push(laneEvent(0, lane.channel, lane.what, usual));
        if (where !== 'start' && lane.values.at(-1) !== usual)
          added.push(laneEvent(endTick(events), lane.channel, lane.what, usual));
      }
      if (added.length === 0)
        return { left: 'Its lanes begin and end so already, or have no usual value.' };
      const written = eventsFrom(added);
      return { events: mergeEvents([events, written]), counts: countKinds(written) };
    });
  },
  describe: ({ lanes, where }, report) =>
    `Reset ${laneList(lanes)} at the ${where === 'both' ? 'start and end' : where} ${inTracks(report)}: ${counted(totalOf(report), 'value')}`,
  examples: [
    { says: 'Every lane, at both ends', settings: {} },
    { says: 'The bend at the end', settings: { lanes: ['bend'], where: 'end' } },
  ],
});
