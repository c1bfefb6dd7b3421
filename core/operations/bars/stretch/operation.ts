import { z } from 'zod';
import { barWords, barsCounted, inBars } from '../../../edit/arrange/in-bars.ts';
import { meterOf, meterSetting } from '../../../edit/arrange/meter-setting.ts';
import { stretched } from '../../../edit/arrange/stretch.ts';
import { defineOperation } from '../../operation.ts';

export const barsStretch = defineOperation({
  id: 'bars.stretch',
  version: 1,
  title: 'Stretch bars',
  summary:
    'Makes bars last another number of bars: twice as many is half time, half as many double time. What follows moves along.',
  group: 'bars',
  scope: 'bars',
  settings: z.strictObject({
    bars: z.int().min(1).max(10_000).default(2).meta({ title: 'To so many bars' }),
    meter: meterSetting('Of the stretched bars, such as 7/8; left out, as they are.'),
    music: z.enum(['changes its speed', 'keeps its seconds']).default('changes its speed').meta({
      title: 'The music',
      description:
        '“keeps its seconds”: the tempo of these bars is made so that it sounds as it did.',
    }),
  }),
  apply(song, { bars, meter, music }, scope) {
    const within = inBars(song, scope);
    if (!within.ok) return within;
    const { from, to, tracks } = within.value;
    return stretched(song, {
      from,
      to,
      bars,
      meter: meterOf(meter),
      keepsSeconds: music === 'keeps its seconds',
      tracks,
    });
  },
  describe: ({ bars, meter }, _report, scope) =>
    `Stretched ${barWords(scope)} to ${barsCounted(bars)}${meter ? ` of ${meter}` : ''}`,
  examples: [
    {
      says: 'Half time',
      settings: { bars: 2 },
      scope: { tracks: 'all', bars: { from: 1, to: 1 } },
    },
    {
      says: 'Written in double time, sounding as it did',
      settings: { bars: 2, music: 'keeps its seconds' },
      scope: { tracks: 'all', bars: { from: 1, to: 1 } },
    },
  ],
});
