import { z } from 'zod';
import { barTick, meterMap } from '../../../timing/meter-map.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { wholeSong } from '../../../song/scope.ts';
import { rewriteTracks } from '../../../edit/rewrite.ts';
import { defineOperation } from '../../operation.ts';

export const timingLength = defineOperation({
  id: 'timing.length',
  version: 1,
  title: 'Set the length of the song',
  summary:
    'Ends every track with a bar, whether notes reach it or not: silence at the end stays silence, and no dummy note is needed.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    bars: z.int().min(1).max(100_000).default(32).meta({ title: 'Last bar', unit: 'bars' }),
  }),
  apply(song, { bars }) {
    const end = barTick(meterMap(timingOf(song).meters, song.division), bars + 1);
    const set = rewriteTracks(song, wholeSong, (events) => {
      const last = events.count - 1;
      const latest = last > 0 ? events.atTick[last - 1]! : 0;
      const to = Math.max(end, latest);
      if (to === events.atTick[last])
        return {
          left:
            latest > end
              ? 'Its last event lies behind that bar, and it ends there.'
              : 'It ends there already.',
        };
      const atTick = events.atTick.slice();
      atTick[last] = to;
      return {
        events: { ...events, atTick },
        counts: { 'end of track': 1 },
        ...(to > end ? { detail: 'its last event lies behind that bar' } : {}),
      };
    });
    return set;
  },
  describe: ({ bars }, { changes }) =>
    `Set the length to ${bars} bars on ${changes.length === 1 ? 'one track' : `${changes.length} tracks`}`,
  examples: [{ says: 'Thirty-two bars', settings: {} }],
});
