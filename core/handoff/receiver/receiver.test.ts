import { expect, it } from 'vitest';
import { limitsSchema } from './receiver.ts';

const taken = (limits: object): boolean => limitsSchema.safeParse(limits).success;

it.each([
  // MIDI 1.0: sixteen channels, programs and controllers of seven bits, banks of twice seven.
  ['channels', (n: number) => ({ channels: n }), 1, 16],
  ['programs', (n: number) => ({ programs: 'a list', programList: [{ program: n }] }), 1, 128],
  [
    'banks',
    (n: number) => ({ programs: 'a list', programList: [{ program: 1, bank: n }] }),
    0,
    16_383,
  ],
  ['controllers', (n: number) => ({ controllers: 'only', controllerList: [n] }), 0, 119],
  // SMF 1.0: tracks are counted in sixteen bits.
  ['tracks', (n: number) => ({ tracks: n }), 1, 65_535],
] as const)(
  'what a receiver takes: %s reach from the least to the most that files have',
  (_, of, least, most) => {
    expect([least - 1, least, most, most + 1].map((n) => taken(of(n)))).toEqual([
      false,
      true,
      true,
      false,
    ]);
  },
);

it('a list of programs, or of controllers, is there where it is asked for, and only there', () => {
  expect(taken({ programs: 'a list' })).toBe(false);
  expect(taken({ programs: 'any', programList: [{ program: 1 }] })).toBe(false);
  expect(taken({ controllers: 'all but' })).toBe(false);
  expect(taken({ controllers: 'all', controllerList: [7] })).toBe(false);
});

it('resolutions are not above the most that is opened, and something at least is taken', () => {
  expect(taken({ resolutions: [480], finest: 480 })).toBe(true);
  expect(taken({ resolutions: [480, 960], finest: 480 })).toBe(false);
  const nothing = { notes: false, marks: [], tempo: 'none', lyrics: false };
  expect(taken(nothing)).toBe(false);
  expect(taken({ ...nothing, lyrics: true })).toBe(true);
});
