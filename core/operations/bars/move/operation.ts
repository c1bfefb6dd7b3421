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

export const barsMove = defineOperation({
  id: 'bars.move',
  version: 1,
  title: 'Move bars',
  summary:
    'Takes bars from where they are and puts them before another bar; what lies between moves up. Every bar sounds as it did.',
  group: 'bars',
  scope: 'bars',
  settings: z.strictObject({
    before: barSetting(
      'Before bar',
      'As bars are numbered now; one more than there are: to the end.',
    ).default(1),
    edges: edgesSetting,
  }),
  apply(song, { before, edges }, scope) {
    const within = inBars(song, scope);
    if (!within.ok) return within;
    const { from, to, bars, tracks } = within.value;
    const bar = barOf(before, bars, 'settings.before');
    if (!bar.ok) return bar;
    if (before > from && before < to)
      return refused({
        code: 'bars-into-themselves',
        where: { field: 'settings.before' },
        from,
        to: to - 1,
        bar: before,
      });
    const moved = { from, to };
    const parts =
      before <= from
        ? [{ from: 1, to: before }, moved, { from: before, to: from }, { from: to, to: Infinity }]
        : [{ from: 1, to: from }, { from: to, to: before }, moved, { from: before, to: Infinity }];
    return arrange(song, toTheEnd(parts, bars), { tracks, edges });
  },
  describe: ({ before }, _report, scope) => `Moved ${barWords(scope)} before bar ${before}`,
  examples: [
    {
      says: 'Bar 2 to the beginning',
      settings: { before: 1 },
      scope: { tracks: 'all', bars: { from: 2, to: 2 } },
    },
  ],
});
