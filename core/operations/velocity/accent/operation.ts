import { z } from 'zod';
import { meterAt, meterMap } from '../../../timing/meter-map.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { counted, inTracks, totalOf } from '../../../edit/rewrite.ts';
import { defineOperation } from '../../operation.ts';
import { editVelocities } from '../../../edit/velocities.ts';

export const velocityAccent = defineOperation({
  id: 'velocity.accent',
  version: 1,
  title: 'Accent by the meter',
  summary:
    'Makes the first beat of each bar louder, the other beats a little, and what lies between them softer.',
  group: 'velocity',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    first: z.int().min(-60).max(60).default(12).meta({ title: 'First beat' }),
    beats: z.int().min(-60).max(60).default(4).meta({ title: 'Other beats' }),
    between: z.int().min(-60).max(60).default(-6).meta({ title: 'Between' }),
  }),
  apply(song, { first, beats, between }, scope) {
    const map = meterMap(timingOf(song).meters, song.division);
    // A player is not a clock: a note counts as on its beat within a sixteenth of the beat.
    return editVelocities(song, scope, () => (velocity, index, events) => {
      const tick = events.atTick[index]!;
      const span = meterAt(map, tick);
      const near = span.beatTicks / 16;
      const inBar = (tick - span.atTick) % span.barTicks;
      if (inBar <= near || span.barTicks - inBar < near) return velocity + first;
      const inBeat = inBar % span.beatTicks;
      return velocity + (inBeat <= near || span.beatTicks - inBeat < near ? beats : between);
    });
  },
  describe: ({ first, beats, between }, report) =>
    `Accented ${counted(totalOf(report), 'note')} ${inTracks(report)} (${first}, ${beats}, ${between})`,
  examples: [{ says: 'As the meter goes', settings: {} }],
});
