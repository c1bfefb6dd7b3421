/**
 * Text of meta events. The specification says ASCII; the files of the world carry what their writers'
 * machines had. The bytes are what is kept; decoding is for people to read. Names of encodings as the IANA
 * has them, but for Latin-1 (ISO 8859-1).
 */
export const textEncodings = [
  'UTF-8',
  'Latin-1',
  'Windows-1252',
  'Windows-1251',
  'Shift-JIS',
  'EUC-JP',
] as const;
export type TextEncodingName = (typeof textEncodings)[number];

/** The one facility of the platform used in the core: WHATWG Encoding, the same wherever the core runs. */
declare const TextDecoder: new (
  label: string,
  options?: { fatal?: boolean },
) => { decode(bytes: Uint8Array): string };

const decoders = {
  'UTF-8': new TextDecoder('utf-8', { fatal: true }),
  'Windows-1251': new TextDecoder('windows-1251'),
  'Shift-JIS': new TextDecoder('shift_jis', { fatal: true }),
  'EUC-JP': new TextDecoder('euc-jp', { fatal: true }),
};

/**
 * Windows-1252 is Latin-1 with these from 0x80 to 0x9F, where that has control characters which no text
 * holds (five places are free).
 */
const western = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';

/** The text that bytes are in one encoding; undefined where they are none. */
export function decodeAs(bytes: Uint8Array, as: TextEncodingName): string | undefined {
  if (as === 'Latin-1' || as === 'Windows-1252')
    return Array.from(bytes, (b) =>
      b >= 0x80 && b <= 0x9f ? western[b - 0x80]! : String.fromCharCode(b),
    ).join('');
  try {
    // Browsers decode no memory that is shared with other threads: of that a copy is decoded.
    return decoders[as].decode(bytes.buffer instanceof ArrayBuffer ? bytes : bytes.slice());
  } catch {
    return undefined;
  }
}

/**
 * Text for people: UTF-8 where the bytes are that, else as `fallback` says. Zero bytes are left out: they
 * end or pad texts and say nothing.
 */
export function decodeText(bytes: Uint8Array, fallback: TextEncodingName = 'Latin-1'): string {
  const shown = bytes.includes(0) ? bytes.filter((b) => b !== 0) : bytes;
  return decodeAs(shown, 'UTF-8') ?? decodeAs(shown, fallback) ?? decodeAs(shown, 'Latin-1')!;
}

/** The first letters of a text, so many at most: no symbol is cut in half. */
export function cutText(text: string, most: number): string {
  const cut = text.slice(0, most);
  return /[\ud800-\udbff]$/.test(cut) ? cut.slice(0, -1) : cut;
}

/** UTF-8 bytes of a text; lone surrogates become U+FFFD. */
export function encodeText(text: string): Uint8Array {
  const bytes: number[] = [];
  for (const symbol of text) {
    let code = symbol.codePointAt(0)!;
    if (code >= 0xd800 && code <= 0xdfff) code = 0xfffd;
    if (code < 0x80) bytes.push(code);
    else if (code < 0x800) bytes.push(0xc0 | (code >> 6), 0x80 | (code & 0x3f));
    else if (code < 0x10000)
      bytes.push(0xe0 | (code >> 12), 0x80 | ((code >> 6) & 0x3f), 0x80 | (code & 0x3f));
    else
      bytes.push(
        0xf0 | (code >> 18),
        0x80 | ((code >> 12) & 0x3f),
        0x80 | ((code >> 6) & 0x3f),
        0x80 | (code & 0x3f),
      );
  }
  return Uint8Array.from(bytes);
}
