import { decodeAs, type TextEncodingName } from './text.ts';

/**
 * What encoding a file's texts are in, judged over all of them together: one text alone is often too short
 * to tell. In each encoding every symbol beyond ASCII speaks for it or against it by what stands beside it;
 * the points are common practice of spelling, set by hand.
 */
export function guessEncoding(texts: readonly Uint8Array[]): TextEncodingName {
  const odd = texts.filter((t) => t.some((b) => b > 0x7f) && decodeAs(t, 'UTF-8') === undefined);
  if (odd.length === 0) return 'UTF-8';
  let best: TextEncodingName = odd.some((t) => t.some((b) => b >= 0x80 && b <= 0x9f))
    ? 'Windows-1252'
    : 'Latin-1';
  let most = points(odd, best);
  for (const other of ['Shift-JIS', 'EUC-JP', 'Windows-1251'] as const) {
    const those = points(odd, other);
    if (those > most) [best, most] = [other, those];
  }
  return best;
}

/** Against an encoding: a text that is none in it, and a symbol that does not belong where it stands. */
const [noText, outOfPlace] = [-6, -3];

function points(texts: readonly Uint8Array[], encoding: TextEncodingName): number {
  const judge = judges[encoding];
  let sum = 0;
  for (const bytes of texts) {
    const text = decodeAs(bytes, encoding);
    if (text === undefined) {
      sum += noText;
      continue;
    }
    const symbols = [...text];
    for (const [i, symbol] of symbols.entries())
      if (symbol > '\u007f')
        sum += judge(symbol, symbols[i - 1] ?? ' ', symbols[i + 1] ?? ' ', symbols, i);
  }
  return sum;
}

type Judge = (
  symbol: string,
  before: string,
  behind: string,
  all: readonly string[],
  at: number,
) => number;

const isAscii = (c: string): boolean => c <= '\u007f';
const isPlainLetter = (c: string): boolean => /[A-Za-z]/.test(c);
const isForeignLetter = (c: string): boolean => !isAscii(c) && /\p{L}/u.test(c);
const isLower = (c: string): boolean => /\p{Ll}/u.test(c);
const isUpper = (c: string): boolean => /\p{Lu}/u.test(c);

/** What may stand beside a symbol: ASCII, or a small letter with an accent. */
const isUsual = (c: string): boolean => isAscii(c) || (isForeignLetter(c) && isLower(c));

/**
 * Accented letters stand among plain ones, few side by side, capitals first or among capitals; of symbols
 * those that titles have.
 */
const western: Judge = (symbol, before, behind) => {
  if (symbol === '’' && isPlainLetter(before) && isPlainLetter(behind)) return 2;
  if (/[‘’“”–—…•«»©®™°€£§¡¿´]/.test(symbol)) return isUsual(before) && isUsual(behind) ? 1 : -1;
  if (/[ªº½¼¾²³·†]/.test(symbol))
    return isForeignLetter(before) || isForeignLetter(behind) ? outOfPlace : 0.5;
  if (!/\p{L}/u.test(symbol) || /[µƒ]/.test(symbol)) return outOfPlace;
  if (isUpper(symbol) && isLower(before)) return outOfPlace - 1;
  if (isForeignLetter(before) || isForeignLetter(behind))
    return isPlainLetter(before) || isPlainLetter(behind) ? 0 : outOfPlace;
  return isPlainLetter(before) || isPlainLetter(behind)
    ? 2
    : isAscii(before) && isAscii(behind)
      ? 0.5
      : 0;
};

/** Cyrillic letters make whole words, without plain ones between, capitals first or all. */
const cyrillic: Judge = (symbol, before, behind, all, at) => {
  if (/[«»“”„–—№…]/.test(symbol)) return 0.5;
  if (!/[\u0400-\u045f\u0490\u0491]/.test(symbol)) return outOfPlace;
  if (isPlainLetter(before) || isPlainLetter(behind)) return outOfPlace;
  if (isUpper(symbol) && isLower(before)) return outOfPlace;
  const long = isForeignLetter(before)
    ? isForeignLetter(behind) || isForeignLetter(all[at - 2] ?? ' ')
    : isForeignLetter(behind) && isForeignLetter(all[at + 2] ?? ' ');
  return long ? 2 : 0.5;
};

/**
 * Kana speak loudest; of kanji the common ones, which stand in the first half of the table; half-width kana
 * stand together.
 */
const japanese =
  (isRare: (kanji: string) => boolean): Judge =>
  (symbol, before, behind) => {
    if (/[\u3041-\u30ff]/.test(symbol)) return 4;
    if (/[\uff66-\uff9f]/.test(symbol)) return halfWidth(symbol, before, behind);
    if (/[\u3000-\u303f\uff01-\uff65]/.test(symbol)) return 1;
    if (/\p{Script=Han}/u.test(symbol))
      return isRare(symbol) ? -1 : isPlainLetter(before) || isPlainLetter(behind) ? 0.5 : 1.5;
    if (/[\ue000-\uf8ff]/.test(symbol)) return outOfPlace - 1;
    return /[♪♯♭★☆○●◎◇◆□■△▲▽▼→←↑↓〒※×÷°]/.test(symbol) ? 1 : outOfPlace + 1;
  };

/** Half-width kana stand together; the marks of voice stand behind the kana that can be voiced, and speak loud. */
function halfWidth(symbol: string, before: string, behind: string): number {
  if (symbol === 'ﾞ') return /[ｶ-ﾄﾊ-ﾎ]/.test(before) ? 4 : outOfPlace;
  if (symbol === 'ﾟ') return /[ﾊ-ﾎ]/.test(before) ? 4 : outOfPlace;
  if (!/[\uff66-\uff9f]/.test(before + behind)) return -1;
  return symbol === 'ｰ' ? (/[ｱ-ﾟ]/.test(before) ? 1.5 : outOfPlace) : 0.4;
}

/** The kanji of JIS X 0208's second level, row 48 and on: as the decoder has them. */
const secondLevel = (() => {
  let rare: Set<string> | undefined;
  return (kanji: string): boolean => {
    rare ??= new Set(
      Array.from({ length: 0xf4 - 0xd0 + 1 }, (_, row) =>
        Array.from(
          { length: 94 },
          (_, cell) => decodeAs(Uint8Array.of(0xd0 + row, 0xa1 + cell), 'EUC-JP') ?? '',
        ),
      ).flat(),
    );
    return rare.has(kanji);
  };
})();

const judges: Readonly<Record<TextEncodingName, Judge>> = {
  'UTF-8': () => 0,
  'Latin-1': western,
  'Windows-1252': western,
  'Windows-1251': cyrillic,
  'Shift-JIS': japanese(secondLevel),
  'EUC-JP': japanese(secondLevel),
};
