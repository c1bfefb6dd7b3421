import { z } from 'zod';
import { bell, chanceFrom } from '../../../edit/chance.ts';
import { counted, inTracks, totalOf } from '../../../edit/rewrite.ts';
import { defineOperation } from '../../operation.ts';
import { editVelocities } from '../../../edit/velocities.ts';

export const velocityRandomise = defineOperation({
  id: 'velocity.randomise',
  version: 1,
  title: 'Randomise velocity',
  summary:
    'Moves each velocity up or down by chance, at most by the spread; the same seed always gives the same result.',
  group: 'velocity',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    spread: z.int().min(1).max(60).default(10).meta({ title: 'Spread', unit: 'up or down' }),
    shape: z
      .enum(['bell', 'even'])
      .default('bell')
      .meta({ title: 'Shape', description: 'Bell: small moves are commoner than large ones.' }),
    seed: z.int().min(0).max(999_999).default(1).meta({ title: 'Seed' }),
  }),
  apply(song, { spread, shape, seed }, scope) {
    // Each track its own numbers, so that doubled parts do not move alike.
    let track = 0;
    return editVelocities(song, scope, () => {
      const chance = chanceFrom(seed * 1009 + track++);
      return (velocity) => velocity + spread * (shape === 'bell' ? bell(chance) : chance() * 2 - 1);
    });
  },
  describe: ({ spread }, report) =>
    `Velocity randomised by up to ${spread} on ${counted(totalOf(report), 'note')} ${inTracks(report)}`,
  examples: [
    { says: 'A human touch', settings: {} },
    { says: 'Wider, evenly', settings: { spread: 20, shape: 'even', seed: 7 } },
  ],
});
