/**
 * Reads the bytes of a text as the song is read: UTF-8 where they are that, else in the song's encoding
 * (names of the WHATWG Encoding Standard). Zero bytes pad texts and say nothing.
 */
declare const TextDecoder: new (
  label: string,
  options?: { fatal?: boolean },
) => { decode(bytes: Uint8Array): string };

/** Windows-1252 from 80 to 9F (index of the WHATWG standard): some platforms read C1 controls there. */
const western = [
  0x20ac, 0x81, 0x201a, 0x192, 0x201e, 0x2026, 0x2020, 0x2021, 0x2c6, 0x2030, 0x160, 0x2039, 0x152,
  0x8d, 0x17d, 0x8f, 0x90, 0x2018, 0x2019, 0x201c, 0x201d, 0x2022, 0x2013, 0x2014, 0x2dc, 0x2122,
  0x161, 0x203a, 0x153, 0x9d, 0x17e, 0x178,
];
const readWestern = (bytes: Uint8Array): string =>
  Array.from(bytes, (b) => String.fromCharCode(b > 0x7f && b < 0xa0 ? western[b - 0x80]! : b)).join(
    '',
  );

const labels: Readonly<Record<string, string>> = {
  'UTF-8': 'utf-8',
  'Windows-1251': 'windows-1251',
  'Shift-JIS': 'shift_jis',
  'EUC-JP': 'euc-jp',
};
const decoders = new Map<string, { decode(bytes: Uint8Array): string }>();

/** The text in one encoding; undefined where the bytes are no text of it. */
export function readStrictly(bytes: Uint8Array, encoding: string): string | undefined {
  // Latin-1 is read as Windows-1252, as the WHATWG standard has it.
  if (encoding === 'Latin-1' || encoding === 'Windows-1252') return readWestern(bytes);
  const label = labels[encoding];
  if (!label) return undefined;
  let decoder = decoders.get(label);
  if (!decoder) decoders.set(label, (decoder = new TextDecoder(label, { fatal: true })));
  try {
    return decoder.decode(bytes.slice());
  } catch {
    return undefined;
  }
}

export function readText(bytes: Uint8Array, encoding: string): string {
  const said = bytes.filter((byte) => byte !== 0);
  return readStrictly(said, 'UTF-8') ?? readStrictly(said, encoding) ?? readWestern(said);
}

/** A text on one line, as lists and sections name it: at most 200 letters, no symbol cut in half. */
export function readLabel(bytes: Uint8Array, encoding: string): string {
  const line = readText(bytes, encoding)
    .replace(/\p{Cc}+/gu, ' ')
    .trim()
    .slice(0, 200);
  return /[\ud800-\udbff]$/.test(line) ? line.slice(0, -1) : line;
}
