import { z } from 'zod';
import { counted, inTracks, totalOf } from '../../../edit/rewrite.ts';
import { editVelocities } from '../../../edit/velocities.ts';
import { defineOperation } from '../../operation.ts';

const velocity = z.int().min(1).max(127);

export const velocityCompress = defineOperation({
  id: 'velocity.compress',
  version: 1,
  title: 'Compress velocity about a centre',
  summary:
    'Draws velocities towards a centre, or away from it above 100 percent, within a range; what was louder stays at least as loud.',
  group: 'velocity',
  scope: 'events',
  takesRows: true,
  settings: z
    .strictObject({
      centre: velocity
        .nullable()
        .default(null)
        .meta({ title: 'Centre', description: 'Empty: the mean of each track.' }),
      amount: z.int().min(0).max(400).default(50).meta({ title: 'Distance kept', unit: 'percent' }),
      lowest: velocity.default(1).meta({ title: 'Lowest' }),
      highest: velocity.default(127).meta({ title: 'Highest' }),
    })
    .refine(({ lowest, highest }) => lowest <= highest, {
      message: 'a lowest that is not above the highest',
      path: ['lowest'],
    }),
  apply: (song, { centre, amount, lowest, highest }, scope) =>
    editVelocities(song, scope, (events, rows) => {
      const about = centre ?? rows.reduce((sum, i) => sum + events.data2[i]!, 0) / rows.length;
      return (v) => Math.min(highest, Math.max(lowest, about + ((v - about) * amount) / 100));
    }),
  describe: ({ amount }, report) =>
    `Velocity ${amount <= 100 ? 'compressed' : 'widened'} to ${amount} % on ${counted(totalOf(report), 'note')} ${inTracks(report)}`,
  examples: [
    { says: 'Half as uneven', settings: {} },
    {
      says: 'Wider about 80, never above 120',
      settings: { centre: 80, amount: 150, highest: 120 },
    },
  ],
});
