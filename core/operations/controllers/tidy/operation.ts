import { z } from 'zod';
import { freeLanes } from '../../../song/lanes.ts';
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
import { idleRows } from '../../../edit/idle.ts';

export const controllersTidy = defineOperation({
  id: 'controllers.tidy',
  version: 2,
  title: 'Take out values nobody hears',
  summary:
    'Leaves out controller values that are overridden on their own tick, that change while nothing sounds on their channel, or that come after the last note; what pedals hold sounds, and what brings a lane to rest stays.',
  group: 'controllers',
  scope: 'events',
  settings: z.strictObject({
    lanes: lanesSetting,
    overridden: z.boolean().default(true).meta({ title: 'Overridden on the same tick' }),
    silent: z
      .boolean()
      .default(true)
      .meta({ title: 'While nothing sounds', description: 'The last value before a note stays.' }),
    after: z.boolean().default(true).meta({ title: 'After the last note' }),
  }),
  apply(song, { lanes, ...what }, scope) {
    return rewriteTracks(song, scope, (events, span, track) => {
      const dropped = new Uint8Array(events.count);
      for (const lane of freeLanes(track)) {
        if (!isNamed(lanes, lane.what)) continue;
        for (const row of idleRows(song, events, lane, what))
          if (within(span, events, row)) dropped[row] = 1;
      }
      const kept = without(events, (i) => dropped[i] === 1);
      return kept
        ? { events: kept, counts: lost(events, kept) }
        : { left: 'Every value of its lanes can be heard.' };
    });
  },
  describe: (_, report) =>
    `Took out ${counted(totalOf(report), 'value')} that nobody hears ${inTracks(report)}`,
  examples: [
    { says: 'Every lane', settings: {} },
    { says: 'Only what is overridden at once', settings: { silent: false, after: false } },
  ],
});
