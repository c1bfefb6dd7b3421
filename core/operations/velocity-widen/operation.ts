import { z } from 'zod';
import { counted, inTracks, totalOf } from '../shared/rewrite.ts';
import { defineOperation } from '../operation.ts';
import { editVelocities } from '../shared/velocities.ts';

export const velocityWiden = defineOperation({
  id: 'velocity.widen',
  version: 1,
  title: 'Widen or narrow velocity',
  summary: 'Spreads the velocities of each track over a range, or draws them together; what was louder stays at least as loud.',
  group: 'velocity',
  scope: 'events',
  settings: z
    .strictObject({
      lowest: z.int().min(1).max(127).default(40).meta({ title: 'Lowest' }),
      highest: z.int().min(1).max(127).default(110).meta({ title: 'Highest' }),
    })
    .refine(({ lowest, highest }) => lowest <= highest, { message: 'a lowest that is not above the highest', path: ['lowest'] }),
  apply: (song, { lowest, highest }, scope) =>
    editVelocities(song, scope, (events, rows) => {
      const values = rows.map((i) => events.data2[i]!);
      const from = values.reduce((a, b) => Math.min(a, b), 127);
      const to = values.reduce((a, b) => Math.max(a, b), 1);
      // A single velocity cannot be spread: there is no order to keep. It is only brought into the range.
      if (from === to) return (velocity) => Math.min(highest, Math.max(lowest, velocity));
      return (velocity) => lowest + ((velocity - from) / (to - from)) * (highest - lowest);
    }),
  describe: ({ lowest, highest }, report) => `Velocity spread over ${lowest} to ${highest} on ${counted(totalOf(report), 'note')} ${inTracks(report)}`,
  examples: [{ says: 'From soft to loud', settings: {} }, { says: 'Drawn together', settings: { lowest: 70, highest: 90 } }],
});
