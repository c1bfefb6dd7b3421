import { describe, expect, it } from 'vitest';
import { boundText } from './bounds.ts';

describe('a bound', () => {
  it.each([
    [1, '1.00'],
    [1.00005, '1.01'],
    [0.994, '1.00'],
    [0.0001, '0.01'],
    [0, '0.00'],
    // 0.1 + 0.2 is a little more than 0.3 in binary.
    [0.1 + 0.2, '0.30'],
    [12.345, '12.35'],
  ])('of %f is said as %s: never less than it is', (bound, said) => {
    expect(boundText(bound)).toBe(said);
  });
});
