import { z } from 'zod';
import { counted, inTracks, totalOf } from '../../../edit/rewrite.ts';
import { defineOperation } from '../../operation.ts';
import { editVelocities } from '../../../edit/velocities.ts';

export const velocitySet = defineOperation({
  id: 'velocity.set',
  version: 1,
  title: 'Set or scale velocity',
  summary:
    'Multiplies velocities, adds to them, or sets them all to one value; everything stays within 1 to 127.',
  group: 'velocity',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    scale: z.number().min(0).max(400).default(100).meta({ title: 'Scale', unit: 'percent' }),
    add: z.int().min(-127).max(127).default(0).meta({ title: 'Add' }),
    to: z.int().min(1).max(127).nullable().default(null).meta({
      title: 'Set all to',
      description: 'One value for every note; the other two are then not used.',
    }),
  }),
  apply: (song, { scale, add, to }, scope) =>
    editVelocities(song, scope, () => (velocity) => to ?? (velocity * scale) / 100 + add),
  describe: ({ scale, add, to }, report) =>
    `${to === null ? `Velocity × ${scale} %${add === 0 ? '' : ` ${add > 0 ? '+' : '−'} ${Math.abs(add)}`}` : `Velocity set to ${to}`} on ${counted(totalOf(report), 'note')} ${inTracks(report)}`,
  examples: [
    { says: 'A little softer', settings: { scale: 90 } },
    { says: 'All alike', settings: { to: 80 } },
  ],
});
