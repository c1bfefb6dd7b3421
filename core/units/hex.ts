const digits = Array.from({ length: 256 }, (_, byte) => byte.toString(16).padStart(2, '0'));

/** Bytes as hexadecimal digits, two a byte. */
export const toHex = (bytes: Uint8Array): string => Array.from(bytes, (byte) => digits[byte]!).join('');

export const fromHex = (hex: string): Uint8Array => Uint8Array.from({ length: hex.length >> 1 }, (_, n) => parseInt(hex.slice(n * 2, n * 2 + 2), 16));
