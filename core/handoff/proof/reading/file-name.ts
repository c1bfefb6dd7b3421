import type { FileNameStyle } from '../../settings.ts';
import { matchesPattern } from './letters.ts';

/** What a name has to say in one place; undefined where anything may stand there. */
export type SaidInName = string | undefined;

/**
 * Letters that surely fit before the ending. Long names take 200 bytes, and a letter has up to three of them
 * in UTF-8.
 */
const maxLetters: Readonly<Record<FileNameStyle, number>> = { long: 66, '16': 16, '8.3': 8 };

/**
 * Whether a file's name says some texts, one behind the other, by their letters and digits: blanks and signs may be
 * left out, a name that is too long may be cut, and one that is taken has a number behind it.
 */
export function isCalled(name: string, said: readonly SaidInName[], style: FileNameStyle): boolean {
  const stem = name.replace(/\.[^.]*$/, '');
  const runs = runsOf(said, style);
  return withoutNumber(stem, style).some((own) => {
    const plain = own.replace(signs, '');
    if (runs.join('') === '' && /^(untitled)?$/i.test(plain)) return true;
    const behind = stem.length - own.length;
    const mayBeCut = isLong(said, style, behind, own);
    return reads(plain, runs) || (mayBeCut && agree(plain, runs[0]!));
  });
}

/** Whether a name was perhaps cut: what it says is too long, or may be, and it is as long as names get. */
function isLong(
  said: readonly SaidInName[],
  style: FileNameStyle,
  behind: number,
  own: string,
): boolean {
  const texts = said.filter((text) => text !== undefined);
  const letters = texts.reduce((sum, text) => sum + text.length, behind);
  if (letters > maxLetters[style]) return true;
  if (style !== 'long' && texts.some((text) => /[^ -~]/.test(text))) return true;
  return texts.length < said.length && own.length + behind >= maxLetters[style] - 2;
}

const signs = /[^\p{L}\p{N}\p{M}]+/gu;

/** Runs of letters with anything between them: short names have those of ASCII, and write others with several. */
function runsOf(said: readonly SaidInName[], style: FileNameStyle): string[] {
  const runs = [''];
  for (const text of said) {
    const cased = style === '8.3' ? text?.toUpperCase() : text;
    const pieces = style === 'long' ? [cased ?? ''] : (cased ?? '').split(/[^ -~]/);
    if (text === undefined) runs.push('');
    for (const [n, piece] of pieces.entries()) {
      if (n > 0) runs.push('');
      runs[runs.length - 1] += piece.replace(signs, '');
    }
  }
  return runs;
}

function digitsAtEnd(stem: string): string {
  let at = stem.length;
  while (/\d/.test(stem[at - 1] ?? '')) at--;
  return stem.slice(at);
}

/** A stem as it is, and what is left of it without a number that may stand behind it. */
function withoutNumber(stem: string, style: FileNameStyle): string[] {
  const number = style === '8.3' ? digitsAtEnd(stem) : (/ \(\d+\)$/.exec(stem)?.[0] ?? '');
  const cut = style === '8.3' ? Array.from(number, (_, n) => n + 1) : [number.length];
  return [stem, ...(number === '' ? [] : cut.map((n) => stem.slice(0, -n)))];
}

const reads = (plain: string, runs: readonly string[]): boolean =>
  runs.length === 1 ? plain === runs[0] : matchesPattern(plain, runs);

/** Whether a text and a run agree as far as the shorter of them reaches. */
const agree = (plain: string, run: string): boolean =>
  plain.length < run.length ? run.startsWith(plain) : plain.startsWith(run);
