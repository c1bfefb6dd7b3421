import { expect, it } from 'vitest';
import { numbersOfBars } from './numbers-of-bars.ts';

// Worked by hand: at least 9 % of the length apart.
it.each([
  [1, [], [1]],
  [2, [], [1, 2]],
  [3, [0.5, 0.9], [1, 2, 3]],
  [100, [], [1, 10, 19, 28, 37, 46, 55, 64, 73, 82, 91, 100]],
  [100, [0, 0.14, 0.15, 0.5], [1, 15, 51]],
  [4, [0, 0.1, 0.2, 1], [1, 4]],
])('of %i bars with marks at %j', (bars, marked, numbers) =>
  expect(numbersOfBars(bars, marked)).toEqual(numbers),
);
