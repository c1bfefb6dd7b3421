/**
 * Text of meta events. The specification says ASCII; the files of the world carry UTF-8, Latin-1 and Shift-JIS.
 * The bytes are what is kept; decoding is for people to read.
 */
export type TextEncodingName = 'UTF-8' | 'Latin-1' | 'Shift-JIS';

/** The one facility of the platform used in the core: WHATWG Encoding, the same wherever the core runs. */
declare const TextDecoder: new (label: string, options?: { fatal?: boolean }) => { decode(bytes: Uint8Array): string };

const decoders = {
  'UTF-8': new TextDecoder('utf-8', { fatal: true }),
  'Latin-1': new TextDecoder('latin1'),
  'Shift-JIS': new TextDecoder('shift_jis', { fatal: true }),
};

function decodes(bytes: Uint8Array, as: TextEncodingName): string | undefined {
  try {
    return decoders[as].decode(bytes);
  } catch {
    return undefined;
  }
}

const isAscii = (bytes: Uint8Array): boolean => bytes.every((b) => b < 0x80);

const isLead = (b: number): boolean => (b >= 0x81 && b <= 0x9f) || (b >= 0xe0 && b <= 0xef);

/** Counts of what speaks for Japanese: kana pairs (lead 0x82, 0x83), and pairs that follow each other directly. */
function japaneseEvidence(bytes: Uint8Array): { kana: number; neighbours: number; halfWidth: number } {
  const seen = { kana: 0, neighbours: 0, halfWidth: 0 };
  let afterPair = false;
  for (let i = 0; i < bytes.length; i++) {
    const b = bytes[i]!;
    const pair = isLead(b) && i + 1 < bytes.length;
    const next = bytes[i + 1] ?? 0;
    if (pair && ((b === 0x82 && next >= 0x9f) || (b === 0x83 && next <= 0x96))) seen.kana++;
    if (pair && afterPair) seen.neighbours++;
    if (b >= 0xa6 && b <= 0xdd && !pair) seen.halfWidth++;
    afterPair = pair;
    if (pair) i++;
  }
  return seen;
}

/**
 * Encoding of a file's texts, judged over all of them together: one text alone is often too short to tell.
 * UTF-8 if every text is; else Shift-JIS if all decode as such and kana or runs of pairs speak for it; else Latin-1.
 */
export function guessEncoding(texts: readonly Uint8Array[]): TextEncodingName {
  const foreign = texts.filter((t) => !isAscii(t));
  const odd = foreign.filter((t) => decodes(t, 'UTF-8') === undefined);
  if (odd.length === 0) return 'UTF-8';
  if (odd.some((t) => decodes(t, 'Shift-JIS') === undefined)) return 'Latin-1';
  const found = odd.map(japaneseEvidence);
  const sum = (of: keyof (typeof found)[number]): number => found.reduce((n, f) => n + f[of], 0);
  const mostlyHalfWidth = odd.some((t) => t.filter((b) => b >= 0xa6 && b <= 0xdd).length > 2 && t.filter((b) => b >= 0xa6 && b <= 0xdd).length * 2 > t.length);
  return sum('kana') > 0 || sum('neighbours') > 1 || mostlyHalfWidth ? 'Shift-JIS' : 'Latin-1';
}

/** Text for people: UTF-8 where the bytes are that, else as `fallback` says. Zero bytes are left out: they end or pad texts and say nothing. */
export function decodeText(bytes: Uint8Array, fallback: TextEncodingName = 'Latin-1'): string {
  const shown = bytes.includes(0) ? bytes.filter((b) => b !== 0) : bytes;
  return decodes(shown, 'UTF-8') ?? decodes(shown, fallback) ?? decodes(shown, 'Latin-1') ?? '';
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
    else if (code < 0x10000) bytes.push(0xe0 | (code >> 12), 0x80 | ((code >> 6) & 0x3f), 0x80 | (code & 0x3f));
    else bytes.push(0xf0 | (code >> 18), 0x80 | ((code >> 12) & 0x3f), 0x80 | ((code >> 6) & 0x3f), 0x80 | (code & 0x3f));
  }
  return Uint8Array.from(bytes);
}
