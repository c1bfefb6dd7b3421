import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bytesOf } from './worked-examples.ts';
import { quantityBytes, readQuantity } from './variable-length.ts';

/** Source: SMF 1.0 (RP-001), table of variable-length quantities; 4000, 100000, 200000 and 8000000 included. */
const table: readonly (readonly [number, string])[] = [
  [0x00, '00'],
  [0x40, '40'],
  [0x7f, '7F'],
  [0x80, '8100'],
  [0x2000, 'C000'],
  [0x3fff, 'FF7F'],
  [0x4000, '818000'],
  [0x100000, 'C08000'],
  [0x1fffff, 'FFFF7F'],
  [0x200000, '81808000'],
  [0x8000000, 'C0808000'],
  [0xfffffff, 'FFFFFF7F'],
];

describe('variable-length quantities', () => {
  it.each(table)('writes and reads %i as the specification does', (value, hex) => {
    expect(quantityBytes(value)).toEqual(bytesOf(hex));
    expect(readQuantity(bytesOf(hex), 0, 4)).toEqual({
      value,
      next: hex.length / 2,
      cut: false,
      tooLong: false,
    });
  });

  it('reads back every value it writes', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 0xfffffff }),
        (value) => readQuantity(quantityBytes(value), 0, 4).value === value,
      ),
    );
  });

  it('refuses what the format cannot say, with value and range', () => {
    expect(() => quantityBytes(0x10000000)).toThrow(
      'A variable-length quantity holds 0 to 268435455, not 268435456',
    );
    expect(() => quantityBytes(-1)).toThrow('not -1');
  });

  it('never reads past the end and says that it was cut', () => {
    expect(readQuantity(bytesOf('8181'), 0, 2)).toMatchObject({ next: 2, cut: true });
  });

  it('takes the last four of too many bytes and says so', () => {
    expect(readQuantity(bytesOf('8080808100'), 0, 5)).toMatchObject({ value: 0x80, tooLong: true });
  });
});
