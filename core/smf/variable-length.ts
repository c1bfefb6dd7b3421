/**
 * Variable-length quantities of SMF 1.0: seven bits a byte, most significant first, the high bit set on all
 * but the last.
 */

export const largestQuantity = 0x0fffffff;

/** Bytes that a quantity of 0–0x0FFFFFFF takes: 1 to 4. */
export function quantityLength(value: number): number {
  return value < 0x80 ? 1 : value < 0x4000 ? 2 : value < 0x200000 ? 3 : 4;
}

/** Writes `value` (0–0x0FFFFFFF) into `bytes` at `at`; gives the place behind it. 0x2000 → C0 00. */
export function writeQuantity(bytes: Uint8Array, at: number, value: number): number {
  if (!(value >= 0 && value <= largestQuantity))
    throw new RangeError(`A variable-length quantity holds 0 to 268435455, not ${value}`);
  for (let shift = (quantityLength(value) - 1) * 7; shift > 0; shift -= 7)
    bytes[at++] = 0x80 | ((value >> shift) & 0x7f);
  bytes[at++] = value & 0x7f;
  return at;
}

/** A quantity as bytes of its own. */
export function quantityBytes(value: number): Uint8Array {
  const bytes = new Uint8Array(quantityLength(value));
  writeQuantity(bytes, 0, value);
  return bytes;
}

export interface Quantity {
  readonly value: number;
  /** Place of the first byte behind the quantity. */
  readonly next: number;
  /** The quantity ran past `end`. */
  readonly cut: boolean;
  /** It had more than the four bytes that the format allows; the last four count. */
  readonly tooLong: boolean;
}

/** Reads a quantity at `at`, never past `end`. */
export function readQuantity(bytes: Uint8Array, at: number, end: number): Quantity {
  let value = 0;
  const from = at;
  while (at < end) {
    const byte = bytes[at++]!;
    value = ((value << 7) | (byte & 0x7f)) & largestQuantity;
    if (byte < 0x80) return { value, next: at, cut: false, tooLong: at - from > 4 };
  }
  return { value, next: at, cut: true, tooLong: false };
}
