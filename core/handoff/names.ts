import { refused, type Result, ok } from '../problems/problems.ts';
import type { Division, FileNameStyle } from './settings.ts';
import { cutText, encodeText } from '../smf/text.ts';
import { trimEnd, trimEnds } from '../units/trim-ends.ts';

/** What a pattern of names can say of a file. */
export const nameWords = [
  'song',
  'track',
  'nn',
  'instrument',
  'bpm',
  'key',
  'section',
  'version',
] as const;
export type NameWord = (typeof nameWords)[number];
export type NameFacts = Readonly<Record<NameWord, string>>;

const patterns: Readonly<Record<Division, string>> = {
  whole: '{song}',
  map: '{song} map',
  tracks: '{song} {nn} {track}',
  groups: '{song} {track}',
  drums: '{song} {nn} {track}',
  sections: '{song} {nn} {section}',
  'sections-tracks': '{song} {nn} {section} {track}',
};

/** The pattern of names that fits a division; in short names there is no room for the song's. */
export const usualPattern = (divide: Division, style: FileNameStyle = 'long'): string =>
  style === 'long' || divide === 'whole' || divide === 'map'
    ? patterns[divide]
    : patterns[divide].replace('{song} ', '');

/** How names are made that a receiver takes. */
export interface NameStyle {
  /** Letters before the ending. */
  readonly most: number;
  /** What is said, with the letters it may have. */
  readonly said: (text: string) => string;
  /** What tells a name from others that are alike. */
  readonly behind: (n: number) => string;
  readonly ending: (ending: string) => string;
}

/** File systems take 255 bytes; room is left for endings, numbers and folders. */
export const longNames: NameStyle = {
  most: 120,
  said: (text) => text,
  behind: (n) => ` (${n})`,
  ending: (ending) => ending,
};
const mostBytes = 200;
/** Quoted at most, of names that were mended for one reason. */
const mostQuoted = 3;

/** Whether a pattern can be followed. */
export function checkedPattern(pattern: string): Result<string> {
  const wrong = (expected: string, found: string): Result<never> =>
    refused({ code: 'settings-invalid', where: { field: 'names' }, expected, found });
  if (/[\\/]/.test(pattern))
    return wrong('names without folders, so none of / and \\', `“${pattern}”`);
  for (const [whole, word] of pattern.matchAll(/\{([^{}]*)\}?/g))
    if (!nameWords.includes(word as NameWord) || !whole.endsWith('}'))
      return wrong(`one of ${nameWords.map((w) => `{${w}}`).join(' ')}`, `“${whole}”`);
  if (pattern.trim() === '') return wrong('a pattern that says something', 'nothing');
  return ok(pattern);
}

/** A file's name, and whether other systems were the reason that it is not what was asked for. */
interface Mended {
  readonly stem: string;
  readonly why: string | undefined;
}

/** Names for files by a pattern, safe on every system and no two alike, and what was mended for that, told. */
export function namesBy(
  pattern: string,
  files: readonly NameFacts[],
  ending: string,
  style: NameStyle = longNames,
): { names: string[]; notes: string[] } {
  const mends = new Map<string, string[]>();
  const tell = (why: string, was: string, is: string): void => {
    mends.set(why, [...(mends.get(why) ?? []), `“${was}” is “${is}”`]);
  };
  const taken = new Set<string>();
  const names = files.map((facts) => {
    const said = saidBy(pattern, facts);
    const { stem, why } = safeStem(said, style);
    if (why) tell(why, said, stem);
    const own = freeStem(stem, taken, style);
    if (own !== stem) tell(clashWords, stem, own);
    return `${own}${style.ending(ending)}`;
  });
  return { names, notes: [...mends].map(([why, quoted]) => mendWords(why, quoted)) };
}

const clashWords =
  'Files of one name, also where only upper and lower case differ, would overwrite one another';

function mendWords(why: string, quoted: readonly string[]): string {
  const more = quoted.length - mostQuoted;
  return `${why}: ${quoted.slice(0, mostQuoted).join(', ')}${more > 0 ? ` and ${more.toLocaleString('en')} more` : ''}.`;
}

const saidBy = (pattern: string, facts: NameFacts): string =>
  pattern
    .replace(/\{(\w+)\}/g, (_, word: NameWord) => facts[word])
    .replace(/\s+/g, ' ')
    .trim();

/** Names of devices, whatever ending they have. */
const devices = /^(con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])(\.|$)/i;

function safeStem(named: string, style: NameStyle): Mended {
  const said = style.said(named);
  const plain = trimEnds(
    said.replace(/[\\/:*?"<>|\p{Cc}\ufffd]/gu, ' ').replace(/\s+/g, ' '),
    '. ',
  );
  if (plain === '')
    return {
      stem: style.said('Untitled'),
      why: named === '' ? undefined : 'Names that are empty on other systems',
    };
  const { most } = style;
  if (devices.test(plain))
    return { stem: shortened(`_${plain}`, most), why: 'Names that mean a device elsewhere' };
  const cut = shortened(plain, most);
  if (cut !== plain) return { stem: cut, why: 'Names that are too long' };
  return {
    stem: plain,
    why: plain === named ? undefined : 'Names that not every system takes were mended',
  };
}

/** As many letters as fit, in bytes too; no blank or dot is left at the end. */
function shortened(text: string, letters: number): string {
  let cut = cutText(text, letters);
  while (encodeText(cut).length > mostBytes) cut = cutText(cut, cut.length - 1);
  return trimEnd(cut, '. ');
}

/** Names that only case or the way accents are written keeps apart are one on some systems. */
const sameAs = (stem: string): string => stem.normalize('NFC').toLowerCase();

function freeStem(stem: string, taken: Set<string>, style: NameStyle): string {
  for (let n = 1; ; n++) {
    const behind = n === 1 ? '' : style.behind(n);
    const own = n === 1 ? stem : `${shortened(stem, style.most - behind.length)}${behind}`;
    if (taken.has(sameAs(own))) continue;
    taken.add(sameAs(own));
    return own;
  }
}
