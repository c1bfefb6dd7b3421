import { z } from 'zod';
import { settling } from '../../../edit/left-hanging.ts';
import { mergeEvents } from '../../../smf/merge.ts';
import { eventsFrom } from '../../../smf/event-builder.ts';
import { countKinds } from '../../../edit/event-kinds.ts';
import { counted, inTracks, rewriteTracks, totalOf } from '../../../edit/rewrite.ts';
import { defineOperation } from '../../operation.ts';

export const controllersSettle = defineOperation({
  id: 'controllers.settle',
  version: 1,
  title: 'Settle controllers at the end',
  summary:
    'Brings a pitch bend that was left off centre back, and lifts pedals that were left down, at the end of the track.',
  group: 'controllers',
  scope: 'tracks',
  settings: z.strictObject({}),
  apply(song, _settings, scope) {
    return rewriteTracks(song, scope, (events, _, track) => {
      const added = settling(track);
      if (added.length === 0) return { left: 'Nothing is left hanging.' };
      return {
        events: mergeEvents([events, eventsFrom(added)]),
        counts: countKinds(eventsFrom(added)),
      };
    });
  },
  describe: (_, report) => `Settled ${counted(totalOf(report), 'controller')} ${inTracks(report)}`,
  examples: [{ says: 'On every track', settings: {} }],
});
