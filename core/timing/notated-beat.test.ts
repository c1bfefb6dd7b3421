import { expect, it } from 'vitest';
import { beatBpm, notatedBeat } from './notated-beat.ts';

it.each([
  [4, 4, 'quarter', 1],
  [2, 2, 'half', 2],
  [6, 8, 'dotted quarter', 1.5],
  [9, 8, 'dotted quarter', 1.5],
  [12, 16, 'dotted eighth', 0.75],
  [3, 8, 'eighth', 0.5],
  [7, 8, 'eighth', 0.5],
  [5, 16, 'sixteenth', 0.25],
  [3, 1, 'whole', 4],
])('%i/%i is counted in the %s (common practice)', (numerator, denominator, name, quarters) => {
  expect(notatedBeat({ numerator, denominator })).toEqual({ name, quarters });
});

it('84 dotted quarters a minute are 126 quarters, 476,190 microseconds each (by hand)', () => {
  expect(beatBpm(476_190, notatedBeat({ numerator: 9, denominator: 8 }))).toBeCloseTo(84, 3);
});
