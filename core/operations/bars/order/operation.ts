import { z } from 'zod';
import { arrange } from '../../../edit/arrange/arrange.ts';
import { barSetting, barsCounted, edgesSetting, toTheEnd } from '../../../edit/arrange/in-bars.ts';
import { barsOf } from '../../../edit/arrange/laid-out.ts';
import { refused } from '../../../problems/problems.ts';
import { tracksIn } from '../../../song/scope.ts';
import { defineOperation } from '../../operation.ts';

export const barsOrder = defineOperation({
  id: 'bars.order',
  version: 1,
  title: 'Set the running order',
  summary:
    'Puts spans of bars, such as sections, in the order in which they are to sound: each as often as it is named, and not at all where it is not.',
  group: 'bars',
  scope: 'tracks',
  settings: z.strictObject({
    order: z
      .array(
        z
          .strictObject({ from: barSetting('First bar'), to: barSetting('Last bar') })
          .refine(({ from, to }) => from <= to, 'a first bar that is not behind the last'),
      )
      .min(1)
      .max(2000)
      .meta({ title: 'Bars in their order', description: 'First and last bar, both included.' }),
    edges: edgesSetting,
  }),
  apply(song, { order, edges }, scope) {
    const tracks = tracksIn(song, scope);
    if (!tracks.ok) return tracks;
    const { bars } = barsOf(song);
    const beyond = order.findIndex(({ to }) => to > bars);
    if (beyond !== -1)
      return refused({
        code: 'bars-behind-end',
        where: { field: `settings.order.${beyond}` },
        bar: order[beyond]!.to,
        bars,
      });
    const parts = toTheEnd(
      order.map(({ from, to }) => ({ from, to: to + 1 })),
      bars,
    );
    return arrange(song, parts, { tracks: tracks.value, edges });
  },
  describe: ({ order }) =>
    `Set the running order: ${barsCounted(order.reduce((sum, { from, to }) => sum + to - from + 1, 0))}`,
  examples: [
    {
      says: 'Bars 3 and 4 first, then 1 and 2',
      settings: {
        order: [
          { from: 3, to: 4 },
          { from: 1, to: 2 },
        ],
      },
    },
  ],
});
