const digits = Array.from({ length: 256 }, (_, byte) => byte.toString(16).padStart(2, '0'));
const [zero, nine, a] = [0x30, 0x39, 0x61];
const valueOf = (code: number): number => (code <= nine ? code - zero : code - a + 10);

/** Bytes as hexadecimal digits, two a byte, in lower case. */
export function toHex(bytes: Uint8Array): string {
  let hex = '';
  for (let n = 0; n < bytes.length; n++) hex += digits[bytes[n]!]!;
  return hex;
}

export function fromHex(hex: string): Uint8Array {
  const bytes = new Uint8Array(hex.length >> 1);
  for (let n = 0; n < bytes.length; n++)
    bytes[n] = (valueOf(hex.charCodeAt(n * 2)) << 4) | valueOf(hex.charCodeAt(n * 2 + 1));
  return bytes;
}

/** Whether a bit of bytes is set that are written as hexadecimal digits: bit 0 is the lowest of the first byte. */
export const hexBit = (hex: string, bit: number): boolean =>
  ((valueOf(hex.charCodeAt((bit >> 3) * 2 + (bit & 4 ? 0 : 1))) >> (bit & 3)) & 1) === 1;
