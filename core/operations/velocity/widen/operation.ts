import { z } from 'zod';
import { meterAt, meterMap, type MeterMap } from '../../../timing/meter-map.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { counted, inTracks, totalOf } from '../../../edit/rewrite.ts';
import { defineOperation } from '../../operation.ts';
import { editVelocities } from '../../../edit/velocities.ts';

export const velocityWiden = defineOperation({
  id: 'velocity.widen',
  version: 1,
  title: 'Widen or narrow velocity',
  summary:
    'Spreads the velocities of each track over a range, or draws them together; what was louder stays at least as loud.',
  group: 'velocity',
  scope: 'events',
  takesRows: true,
  settings: z
    .strictObject({
      lowest: z.int().min(1).max(127).default(40).meta({ title: 'Lowest' }),
      highest: z.int().min(1).max(127).default(110).meta({ title: 'Highest' }),
      equal: z.enum(['stay equal', 'are spread']).default('stay equal').meta({
        title: 'Equal velocities',
        description:
          'Spread, each keeps between those that were softer and louder; among equals the beats of the bar are louder.',
      }),
    })
    .refine(({ lowest, highest }) => lowest <= highest, {
      message: 'a lowest that is not above the highest',
      path: ['lowest'],
    }),
  apply: (song, { lowest, highest, equal }, scope) => {
    const meters = meterMap(timingOf(song).meters, song.division);
    return editVelocities(song, scope, (events, rows) => {
      const values = rows.map((i) => events.data2[i]!);
      const from = values.reduce((a, b) => Math.min(a, b), 127);
      const to = values.reduce((a, b) => Math.max(a, b), 1);
      const place = (velocity: number): number =>
        from === to
          ? (lowest + highest) / 2
          : lowest + ((velocity - from) / (to - from)) * (highest - lowest);
      if (equal === 'are spread')
        return spread(events.data2, rows, place, (i) => weightOf(meters, events.atTick[i]!), {
          lowest,
          highest,
        });
      // A single velocity cannot be spread where equals stay equal. It is only brought into the range.
      return from === to ? (velocity) => Math.min(highest, Math.max(lowest, velocity)) : place;
    });
  },
  describe: ({ lowest, highest }, report) =>
    `Velocity spread over ${lowest} to ${highest} on ${counted(totalOf(report), 'note')} ${inTracks(report)}`,
  examples: [
    { says: 'From soft to loud', settings: {} },
    { says: 'Drawn together', settings: { lowest: 70, highest: 90 } },
    { says: 'A part of one velocity brought to life', settings: { equal: 'are spread' } },
  ],
});

/**
 * Each velocity's notes evenly over the room between those around it, by weight: an order that was there is
 * kept, and one is made where there was none.
 */
function spread(
  data2: Uint8Array,
  rows: readonly number[],
  place: (velocity: number) => number,
  weight: (row: number) => number,
  range: { lowest: number; highest: number },
): (velocity: number, row: number) => number {
  const groups = new Map<number, number[]>();
  for (const row of rows) {
    const group = groups.get(data2[row]!);
    if (group) group.push(row);
    else groups.set(data2[row]!, [row]);
  }
  const ordered = [...groups.keys()].sort((a, b) => a - b);
  const made = new Map<number, number>();
  ordered.forEach((velocity, n) => {
    const low = n === 0 ? range.lowest : (place(ordered[n - 1]!) + place(velocity)) / 2;
    const high =
      n === ordered.length - 1 ? range.highest : (place(velocity) + place(ordered[n + 1]!)) / 2;
    const group = groups
      .get(velocity)!
      .map((row) => ({ row, weight: weight(row) }))
      .sort((a, b) => a.weight - b.weight || a.row - b.row);
    group.forEach(({ row }, k) => made.set(row, low + ((k + 0.5) / group.length) * (high - low)));
  });
  return (velocity, row) => made.get(row) ?? velocity;
}

/**
 * How strong a place in the bar is: its first beat, other beats, halves of beats, the rest; within these as
 * by chance, the same for notes that begin together.
 */
function weightOf(meters: MeterMap, tick: number): number {
  const span = meterAt(meters, tick);
  const near = span.beatTicks / 16;
  const isOn = (step: number): boolean => {
    const into = (tick - span.atTick) % step;
    return into <= near || step - into < near;
  };
  const strong = isOn(span.barTicks)
    ? 3
    : isOn(span.beatTicks)
      ? 2
      : isOn(span.beatTicks / 2)
        ? 1
        : 0;
  return strong + (Math.imul(tick + 1, 0x9e3779b1) >>> 0) / 2 ** 32;
}
