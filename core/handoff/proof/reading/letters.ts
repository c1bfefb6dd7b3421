import type { TextForm } from '../../settings.ts';
import { readStrictly } from './read-text.ts';

/** Letters that a text encoding surely has; what is in doubt counts as lacking, and is compared loosely. */
export function hasLetter(letter: string, form: TextForm): boolean {
  const code = letter.codePointAt(0)!;
  if (form === 'as they are' || form === 'UTF-8' || code < 0x80) return true;
  if (form === 'Latin-1') return code >= 0xa0 && code <= 0xff;
  return form === 'Shift-JIS' && shiftJisLetters().has(letter);
}

let pairs: ReadonlySet<string> | undefined;
/** Read from the decoder of the WHATWG Encoding Standard, pair by pair; rows of extensions are in doubt. */
function shiftJisLetters(): ReadonlySet<string> {
  if (pairs) return pairs;
  const found = new Set<string>();
  for (const [from, to] of [
    [0x81, 0x84],
    [0x88, 0x9f],
    [0xe0, 0xea],
  ] as const)
    for (let lead = from; lead <= to; lead++)
      for (let trail = 0x40; trail <= 0xfc; trail++) {
        const letter = readStrictly(Uint8Array.of(lead, trail), 'Shift-JIS');
        if (letter !== undefined && Array.from(letter).length === 1) found.add(letter);
      }
  pairs = found;
  return found;
}

/** Runs of letters with something or nothing between them. */
export type LoosePattern = readonly string[];

/**
 * How a text may read in a form that lacks some of its letters: the others in their order, anything in the
 * place of those that it lacks. Undefined where it lacks none.
 */
export function patternIn(text: string, form: TextForm): LoosePattern | undefined {
  const runs = [''];
  for (const letter of text.normalize('NFC'))
    if (hasLetter(letter, form)) runs[runs.length - 1] += letter;
    else runs.push('');
  return runs.length === 1 ? undefined : runs;
}

/** Whether a text begins with the first run, ends with the last, and has the others between them in order. */
export function matchesPattern(text: string, runs: LoosePattern): boolean {
  const [first, last] = [runs[0]!, runs.at(-1)!];
  if (!text.startsWith(first) || !text.endsWith(last)) return false;
  let at = first.length;
  for (const run of runs.slice(1, -1)) {
    const found = text.indexOf(run, at);
    if (found < 0) return false;
    at = found + run.length;
  }
  return at <= text.length - last.length;
}
