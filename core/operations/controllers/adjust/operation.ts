import { z } from 'zod';
import { laneList, lanesSetting } from '../../../edit/lane-settings.ts';
import { counted, inTracks, rewriteTracks, totalOf } from '../../../edit/rewrite.ts';
import { shapeLanes } from '../../../edit/shape-lanes.ts';
import { isSwitch } from '../../../song/lanes.ts';
import { defineOperation } from '../../operation.ts';

const value = z.int().min(0).max(127);

export const controllersAdjust = defineOperation({
  id: 'controllers.adjust',
  version: 1,
  title: 'Scale, shift or limit controllers',
  summary:
    'Multiplies the values of lanes about a centre, adds to them, and keeps them between a lowest and a highest. Pedals stay as they are.',
  group: 'controllers',
  scope: 'events',
  takesRows: true,
  settings: z
    .strictObject({
      lanes: lanesSetting,
      scale: z.number().min(0).max(400).default(100).meta({ title: 'Scale', unit: 'percent' }),
      centre: value.default(0).meta({
        title: 'About',
        description:
          'The value that scaling leaves alone; a pitch bend is always scaled about its own centre.',
      }),
      add: z.int().min(-127).max(127).default(0).meta({ title: 'Add' }),
      lowest: value.default(0).meta({ title: 'Lowest' }),
      highest: value.default(127).meta({ title: 'Highest' }),
    })
    .refine(({ lowest, highest }) => lowest <= highest, {
      message: 'a lowest that is not above the highest',
      path: ['lowest'],
    }),
  apply: (song, { lanes, scale, centre, add, lowest, highest }, scope) =>
    rewriteTracks(song, scope, (_, span, track) =>
      shapeLanes(track, span, lanes, (values, __, { what }) => {
        if (isSwitch(what)) return values;
        // A bend has 128 times the steps of a controller; its limits run the same way, the highest to its very top.
        const unit = what === 'bend' ? 128 : 1;
        const about = what === 'bend' ? 8192 : centre;
        const top = highest * unit + (unit - 1);
        return values.map((v) =>
          Math.min(top, Math.max(lowest * unit, about + ((v - about) * scale) / 100 + add * unit)),
        );
      }),
    ),
  describe: ({ lanes }, report) =>
    `Adjusted ${laneList(lanes)} ${inTracks(report)}: ${counted(totalOf(report), 'value')}`,
  examples: [
    { says: 'Expression a little lower', settings: { lanes: [11], scale: 85 } },
    { says: 'Volume between 40 and 100', settings: { lanes: [7], lowest: 40, highest: 100 } },
  ],
});
