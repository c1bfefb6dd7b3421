import type { Chord } from './chord.ts';
import { qualityCalled, qualityOf, qualityOfBits, type Quality } from './qualities.ts';
import { noteAt, pitchOf, semitonesOfDegree } from './spelling.ts';

/** What a chord symbol says; `undefined` for one that says that no chord sounds. */
export type ReadChord = { readonly chord: Chord | undefined; readonly text: string };

const noChord = /^(n\.?c\.?|no chord)$/i;

/** Where the chord line ends: behind it nothing is said of chords, and what is told from what sounds counts. */
export const lineEnd = 'end';

/**
 * A chord symbol as it is typed: a root, what stands over it, and after a slash the bass. `N.C.` is no
 * chord, `end` the end of the line. `text` is the symbol in this application's own spelling. Undefined where it is no chord symbol.
 */
export function readChord(typed: string): ReadChord | undefined {
  const said = typed.trim();
  if (noChord.test(said)) return { chord: undefined, text: 'N.C.' };
  if (said.toLowerCase() === lineEnd) return { chord: undefined, text: lineEnd };
  const root = noteAt(said);
  if (!root) return undefined;
  const rest = said.slice(root.length);
  const slash = /\/\s*([A-G](?:##?|♯♯?|x|bb?|♭♭?)?)$/.exec(rest);
  const quality = readQuality(slash ? rest.slice(0, slash.index) : rest);
  if (!quality) return undefined;
  const bass = slash && noteAt(slash[1]!)!.note;
  const chord = {
    root: pitchOf(root.note),
    quality,
    ...(bass && pitchOf(bass) !== pitchOf(root.note) ? { bass: pitchOf(bass) } : {}),
  };
  const plain = plainSigns(said.slice(0, root.length));
  return { chord, text: plain + quality.text + (bass ? `/${plainSigns(slash[1]!)}` : '') };
}

const plainSigns = (note: string): string =>
  note.replaceAll('♯', '#').replaceAll('♭', 'b').replace('x', '##');

/** Degrees by their number, as they are gathered from a symbol. */
class Degrees {
  readonly by = new Map<number, string[]>([
    [1, ['1']],
    [3, ['3']],
    [5, ['5']],
  ]);

  set(...degrees: string[]): void {
    for (const d of degrees) this.by.set(numberOf(d), [d]);
  }
  /** Beside one of its number that is altered as well: `7b9#9`. */
  alter(degree: string): void {
    const number = numberOf(degree);
    const altered = (this.by.get(number) ?? []).filter((d) => d !== String(number));
    this.by.set(number, [...altered, degree]);
  }
  drop(number: number): void {
    this.by.delete(number);
  }
  list(): string[] {
    return [...this.by.entries()].sort(([a], [b]) => a - b).flatMap(([, degrees]) => degrees);
  }
}
const numberOf = (degree: string): number => Number(degree.replace(/^[b#]+/, ''));

type Reader = (said: RegExpExecArray, degrees: Degrees, so: { major: boolean }) => void;

/** The seventh and what is stacked on it up to a number. */
const stacked: Readonly<Record<string, readonly string[]>> = {
  '5': [],
  '6': ['6'],
  '69': ['6', '9'],
  '7': ['b7'],
  '9': ['b7', '9'],
  '11': ['b7', '9', '11'],
  '13': ['b7', '9', '13'],
};

/** What a symbol begins with: the triad. */
const triads: readonly (readonly [RegExp, Reader])[] = [
  [/^(maj|Maj|MAJ|major|ma(?!dd)|Ma(?!dd)|M|Δ|j(?=7|9|1))/, (_, __, so) => void (so.major = true)],
  [/^(half-?dim|hdim|ø|Ø)7?/, (_, d) => d.set('b3', 'b5', 'b7')],
  [/^(dim|°|o(?!m))/, (_, d) => d.set('b3', 'b5')],
  [/^(min|Min|MIN|mi(?!n)|m|-(?!5))/, (_, d) => d.set('b3')],
  [/^(aug|\+(?!4|5|11))/, (_, d) => d.set('#5')],
  [/^dom/, (_, d) => d.set('b7')],
];

/** What may stand behind it, in any order. */
const further: readonly (readonly [RegExp, Reader])[] = [
  [
    /^\/?(maj|Maj|ma(?!dd)|Ma(?!dd)|M|Δ)(?=$|7|9|11|13|#|b|\/)/,
    (_, __, so) => void (so.major = true),
  ],
  [/^sus2sus4|^sus24/, (_, d) => (d.drop(3), d.set('2', '4'))],
  [/^sus([24]?)/, ([, n], d) => (d.drop(3), d.set(n || '4'))],
  [/^add([b#]?)(2|4|6|9|11|13)/, ([, sign, n], d) => d.alter(sign + addedAs(n!))],
  [/^(?:no|omit)(\d+)/, ([, n], d) => d.drop(Number(n))],
  [/^(aug|\+(?!\d))/, (_, d) => d.set('#5')],
  [/^[#+]4/, (_, d) => d.alter('#11')],
  [/^alt/, (_, d) => (d.set('b7'), d.drop(5), ['b9', '#9', 'b13'].forEach((x) => d.alter(x)))],
  [
    /^([b#+-])(5|6|9|11|13)/,
    ([, sign, n], d) => d.alter((sign === '-' ? 'b' : sign === '+' ? '#' : sign!) + n!),
  ],
  [
    /^(6\/?9|13|11|9|7|6|5|2|4)/,
    ([, n], d, so) => {
      if (n === '2' || n === '4') return d.set(addedAs(n));
      if (n === '5') return d.drop(3);
      const degrees = stacked[n!.replace('/', '')]!;
      const dims = d.by.get(3)?.[0] === 'b3' && d.by.get(5)?.[0] === 'b5' && n === '7';
      d.set(...degrees.map((x) => (x !== 'b7' ? x : so.major ? '7' : dims ? 'bb7' : x)));
      if (n === '11' && !so.major && d.by.get(3)?.[0] === '3') d.drop(3);
      so.major = false;
    },
  ],
];

/** The second and fourth that are added to a triad lie above it. */
const addedAs = (n: string): string => (n === '2' ? '9' : n === '4' ? '11' : n);

const mostSigns = 40;

function readQuality(typed: string): Quality | undefined {
  let rest = typed
    .replaceAll('♭', 'b')
    .replaceAll('♯', '#')
    .replaceAll('△', 'Δ')
    .replace('^', 'maj')
    .replaceAll(/[(),\s[\]]/g, '');
  if (rest.length > mostSigns) return undefined;
  const known = qualityCalled(rest);
  if (known) return known;
  const degrees = new Degrees();
  const so = { major: false };
  const began = take(triads, rest, degrees, so);
  if (began !== undefined) rest = began;
  // The triangle alone says a major seventh, also with what is altered behind it.
  const bareMajor = /^[Δ△](?!\d)/.test(typed.trim());
  while (rest !== '') {
    const left = take(further, rest, degrees, so);
    if (left === undefined) return undefined;
    rest = left;
  }
  if (bareMajor || (so.major && /m(in)?(maj|Maj|M|Δ|△)$/.test(typed))) degrees.set('7');
  const list = degrees.list();
  if (list.length < 2) return undefined;
  const bits = list.reduce((b, d) => b | (1 << semitonesOfDegree(d)), 0);
  return qualityOfBits(bits) ?? qualityOf(rewritten(typed), list);
}

/** A symbol that no usual one stands for, as it was typed, without blanks and signs that others may not have. */
const rewritten = (typed: string): string =>
  typed.trim().replaceAll('♭', 'b').replaceAll('♯', '#').replaceAll(/\s/g, '');

function take(
  readers: readonly (readonly [RegExp, Reader])[],
  text: string,
  degrees: Degrees,
  so: { major: boolean },
): string | undefined {
  for (const [pattern, read] of readers) {
    const found = pattern.exec(text);
    if (!found || found[0] === '') continue;
    read(found, degrees, so);
    return text.slice(found[0].length);
  }
  return undefined;
}
