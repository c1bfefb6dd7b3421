import { expect, it } from 'vitest';
import { takeSchema } from './take-settings.ts';

it('any of the 120 controllers may be left out, each mode message (120 to 127, MIDI 1.0) is none', () => {
  const taken = (without: readonly number[]): boolean => takeSchema.safeParse({ without }).success;
  const all = Array.from({ length: 120 }, (_, n) => n);
  expect([all, [...all, 0], [119], [120], [-1]].map(taken)).toEqual([
    true,
    false,
    true,
    false,
    false,
  ]);
});
