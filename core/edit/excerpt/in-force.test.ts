import { expect, it } from 'vitest';
import { setsUpAnew } from './in-force.ts';

/** A message in hexadecimal, without its F0. */
const says = (hex: string): boolean =>
  setsUpAnew(Uint8Array.from(hex.split(' ').map((byte) => Number.parseInt(byte, 16))));

it('what sets up all of an instrument anew (universal: MIDI 1.0; of two makers: common practice, from memory)', () => {
  expect(
    ['7E 7F 09 01 F7', '7E 7F 09 02 F7', '7E 7F 09 03 F7', '7E 00 09 01 F7'].map(says),
  ).toEqual([true, true, true, true]);
  expect(says('41 10 42 12 40 00 7F 00 41 F7')).toBe(true);
  expect(says('43 10 4C 00 00 7E 00 F7')).toBe(true);
});

it('no other message does: of another maker, for another address, of another kind', () => {
  for (const hex of [
    '7E 7F 09 04 F7',
    '7E 7F 09 00 F7',
    '7E 7F 06 01 F7',
    '7F 7F 04 01 00 7F F7',
    '43 10 42 12 40 00 7F 00 41 F7',
    '41 10 4C 00 00 7E 00 F7',
    '41 10 42 12 40 00 04 7F 3D F7',
    '43 10 4C 00 00 04 7F F7',
    '47 10 42 12 40 00 7F 00 41 F7',
    '7D F7',
  ])
    expect([hex, says(hex)]).toEqual([hex, false]);
});
