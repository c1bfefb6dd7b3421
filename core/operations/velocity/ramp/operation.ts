import { z } from 'zod';
import { timingOf } from '../../../song/timing-of.ts';
import { spanOf } from '../../../song/scope.ts';
import { counted, inTracks, totalOf } from '../../../edit/rewrite.ts';
import { editVelocities } from '../../../edit/velocities.ts';
import { defineOperation } from '../../operation.ts';

const velocity = z.int().min(1).max(127);

export const velocityRamp = defineOperation({
  id: 'velocity.ramp',
  version: 1,
  title: 'Ramp velocity over bars',
  summary:
    'Makes notes louder or softer over the bars of the scope; how single notes differ from the mean stays by as much as is said.',
  group: 'velocity',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    from: velocity.default(50).meta({ title: 'From' }),
    to: velocity.default(100).meta({ title: 'To' }),
    keep: z.int().min(0).max(100).default(100).meta({ title: 'Differences kept', unit: 'percent' }),
  }),
  apply(song, { from, to, keep }, scope) {
    const span = spanOf(song, scope);
    if (!span.ok) return span;
    const end = Math.max(span.value.from + 1, Math.min(span.value.to, timingOf(song).endTick));
    return editVelocities(song, scope, (events, rows) => {
      const mean = rows.reduce((sum, i) => sum + events.data2[i]!, 0) / rows.length;
      return (v, i) =>
        from +
        ((to - from) * (events.atTick[i]! - span.value.from)) / (end - span.value.from) +
        ((v - mean) * keep) / 100;
    });
  },
  describe: ({ from, to }, report) =>
    `Velocity ramped from ${from} to ${to} on ${counted(totalOf(report), 'note')} ${inTracks(report)}`,
  examples: [
    { says: 'A crescendo over the song', settings: {} },
    { says: 'An even fade', settings: { from: 110, to: 30, keep: 0 } },
  ],
});
