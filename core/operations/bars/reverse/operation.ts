import { z } from 'zod';
import { arrange } from '../../../edit/arrange/arrange.ts';
import { barWords, edgesSetting, inBars, toTheEnd } from '../../../edit/arrange/in-bars.ts';
import { refused } from '../../../problems/problems.ts';
import { defineOperation } from '../../operation.ts';

/** Each is a join. */
const mostBars = 5000;

export const barsReverse = defineOperation({
  id: 'bars.reverse',
  version: 1,
  title: 'Reverse bars',
  summary: 'Puts bars in the opposite order: the last comes first. Each sounds as it did.',
  group: 'bars',
  scope: 'bars',
  settings: z.strictObject({ edges: edgesSetting }),
  apply(song, { edges }, scope) {
    const within = inBars(song, scope);
    if (!within.ok) return within;
    const { from, to, bars, tracks } = within.value;
    if (to - from > mostBars)
      return refused({
        code: 'settings-invalid',
        where: { field: 'scope.bars' },
        expected: `at most ${mostBars.toLocaleString('en')} bars`,
        found: (to - from).toLocaleString('en'),
      });
    const turned = Array.from({ length: to - from }, (_, n) => ({ from: to - n - 1, to: to - n }));
    const parts = toTheEnd([{ from: 1, to: from }, ...turned, { from: to, to: Infinity }], bars);
    return arrange(song, parts, { tracks, edges });
  },
  describe: (_settings, _report, scope) => `Reversed ${barWords(scope)}`,
  examples: [
    { says: 'Bars 1 to 3', settings: {}, scope: { tracks: 'all', bars: { from: 1, to: 3 } } },
  ],
});
