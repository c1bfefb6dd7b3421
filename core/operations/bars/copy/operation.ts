import { z } from 'zod';
import { arrange } from '../../../edit/arrange/arrange.ts';
import {
  barOf,
  barSetting,
  barWords,
  edgesSetting,
  inBars,
  toTheEnd,
} from '../../../edit/arrange/in-bars.ts';
import { refused } from '../../../problems/problems.ts';
import { defineOperation } from '../../operation.ts';

export const barsCopy = defineOperation({
  id: 'bars.copy',
  version: 1,
  title: 'Copy bars',
  summary:
    'Puts bars once more, or several times, before another bar; what is there moves behind them, or gives way to them.',
  group: 'bars',
  scope: 'bars',
  settings: z.strictObject({
    before: barSetting('Before bar', 'One more than there are: at the end.').default(1),
    times: z.int().min(1).max(1000).default(1).meta({ title: 'Times' }),
    what: z.enum(['moves behind', 'gives way']).default('moves behind').meta({
      title: 'What is there',
      description: '“gives way”: the copy stands in its place; tempo, meter and markers stay.',
    }),
    edges: edgesSetting,
  }),
  apply(song, { before, times, what, edges }, scope) {
    const within = inBars(song, scope);
    if (!within.ok) return within;
    const { from, to, bars, tracks } = within.value;
    const bar = barOf(before, bars, 'settings.before');
    if (!bar.ok) return bar;
    const behind = before + times * (to - from);
    const overlaps = what === 'gives way' && before < to && behind > from;
    if (overlaps || (what === 'moves behind' && before > from && before < to))
      return refused({
        code: 'bars-into-themselves',
        where: { field: 'settings.before' },
        from,
        to: to - 1,
        bar: before,
      });
    const copies = Array.from({ length: times }, () => ({ from, to }));
    const rest = { from: what === 'gives way' ? behind : before, to: Infinity };
    const parts = toTheEnd([{ from: 1, to: before }, ...copies, rest], bars);
    const stays = what === 'gives way';
    return arrange(song, parts, { tracks, edges, mapStays: stays, lengthStays: stays });
  },
  describe: ({ before, times }, _report, scope) =>
    `Copied ${barWords(scope)} before bar ${before}${times > 1 ? ` ${times} times` : ''}`,
  examples: [
    {
      says: 'Bar 1 before bar 3',
      settings: { before: 3 },
      scope: { tracks: 'all', bars: { from: 1, to: 1 } },
    },
    {
      says: 'In place of bar 2',
      settings: { before: 2, what: 'gives way' },
      scope: { tracks: 'all', bars: { from: 1, to: 1 } },
    },
  ],
});
