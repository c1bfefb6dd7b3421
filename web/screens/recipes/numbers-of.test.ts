import { expect, it } from 'vitest';
import { numbersOf } from './numbers-of.ts';

// Worked by hand.
it.each([
  ['2', [2]],
  [' 2, 5–7 ,2', [2, 5, 6, 7]],
  ['3-4', [3, 4]],
  ['', undefined],
  ['0', undefined],
  ['7-5', undefined],
  ['two', undefined],
  ['1-60000', undefined],
])('the numbers of "%s"', (text, numbers) => expect(numbersOf(text)).toEqual(numbers));
