import { usualValue } from '../../instruments/usual-values.ts';

/** What an instrument starts from, by its name in `instrument.ts`, as words that say it. */
function isUsual(name: string, value: number): boolean {
  const [, number] = /^controller (\d+)$/.exec(name) ?? [];
  if (number !== undefined) return value === (usualValue(Number(number)) ?? 0);
  if (name === 'RPN 0 0 coarse') return value === 2;
  if (/^(RPN 0 [12]|NRPN .*) coarse$/.test(name)) return value === 64;
  return value === 0 || name === 'bank';
}

/**
 * Words of a channel without what it starts from: what was said in between is taken back to that, where it
 * cannot be unsaid.
 */
export const said = (words: string): string =>
  words
    .split(', ')
    .filter((word) => {
      const at = word.lastIndexOf(' ');
      return !isUsual(word.slice(0, at), Number(word.slice(at + 1)));
    })
    .join(', ');
