import { z } from 'zod';
import { arrange } from '../../../edit/arrange/arrange.ts';
import { barWords, edgesSetting, inBars, toTheEnd } from '../../../edit/arrange/in-bars.ts';
import { defineOperation } from '../../operation.ts';

export const barsRepeat = defineOperation({
  id: 'bars.repeat',
  version: 1,
  title: 'Repeat bars',
  summary: 'Lets bars sound again right behind themselves; what follows moves behind that.',
  group: 'bars',
  scope: 'bars',
  settings: z.strictObject({
    times: z.int().min(1).max(1000).default(1).meta({
      title: 'Times more',
      description: 'Once more: they are heard twice.',
    }),
    edges: edgesSetting,
  }),
  apply(song, { times, edges }, scope) {
    const within = inBars(song, scope);
    if (!within.ok) return within;
    const { from, to, bars, tracks } = within.value;
    const again = Array.from({ length: times + 1 }, () => ({ from, to }));
    const parts = toTheEnd([{ from: 1, to: from }, ...again, { from: to, to: Infinity }], bars);
    return arrange(song, parts, { tracks, edges });
  },
  describe: ({ times }, _report, scope) =>
    `Repeated ${barWords(scope)}${times > 1 ? ` ${times} times` : ''}`,
  examples: [
    { says: 'Bars 1 and 2', settings: {}, scope: { tracks: 'all', bars: { from: 1, to: 2 } } },
  ],
});
