import { z } from 'zod';
import { arrange } from '../../../edit/arrange/arrange.ts';
import {
  barOf,
  barSetting,
  barsCounted,
  edgesSetting,
  toTheEnd,
} from '../../../edit/arrange/in-bars.ts';
import { meterOf, meterSetting } from '../../../edit/arrange/meter-setting.ts';
import { barsOf } from '../../../edit/arrange/laid-out.ts';
import { refused } from '../../../problems/problems.ts';
import { tracksIn } from '../../../song/scope.ts';
import { defineOperation } from '../../operation.ts';

export const barsInsert = defineOperation({
  id: 'bars.insert',
  version: 1,
  title: 'Insert empty bars',
  summary:
    'Puts empty bars before a bar, in the meter of the bar before it or in one that is said. What follows moves behind them with all that goes with it.',
  group: 'bars',
  scope: 'tracks',
  settings: z.strictObject({
    before: barSetting('Before bar', 'One more than there are: at the end.').default(1),
    bars: z.int().min(1).max(10_000).default(1).meta({ title: 'Bars' }),
    meter: meterSetting('Such as 7/8; left out, as before them.'),
    edges: edgesSetting,
  }),
  apply(song, { before, bars: count, meter, edges }, scope) {
    const tracks = tracksIn(song, scope);
    if (!tracks.ok) return tracks;
    const { bars } = barsOf(song);
    const bar = barOf(before, bars, 'settings.before');
    if (!bar.ok) return bar;
    const alone = tracks.value.length < song.tracks.length;
    if (alone && meter)
      return refused({
        code: 'settings-invalid',
        where: { field: 'settings.meter' },
        expected: 'no meter, where other tracks stay',
        found: meter,
      });
    const empty = { empty: count, meter: meterOf(meter) };
    const parts = toTheEnd([{ from: 1, to: before }, empty, { from: before, to: Infinity }], bars);
    return arrange(song, parts, { tracks: tracks.value, edges });
  },
  describe: ({ before, bars, meter }) =>
    `Inserted ${barsCounted(bars)}${meter ? ` of ${meter}` : ''} before bar ${before}`,
  examples: [
    { says: 'One bar before bar 2', settings: { before: 2 } },
    {
      says: 'Two bars of 7/8',
      settings: { before: 2, bars: 2, meter: '7/8' },
      scope: { tracks: 'all' },
    },
  ],
});
