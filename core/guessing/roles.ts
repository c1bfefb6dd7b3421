import type { Features } from './features.ts';

/** Number behind those of the sixteen families. */
export const drumsClass = 16;

/** What a part does in a song. */
export const roleNames = [
  'drums',
  'bass',
  'keys and plucked chords',
  'sustained',
  'line',
  'mallets',
] as const;
export type Role = (typeof roleNames)[number];

/** The role that instruments of each family have mostly (common practice). */
const roles: readonly Role[] = [
  'keys and plucked chords',
  'mallets',
  'sustained',
  'keys and plucked chords',
  'bass',
  'sustained',
  'sustained',
  'line',
  'line',
  'line',
  'line',
  'sustained',
  'sustained',
  'keys and plucked chords',
  'mallets',
  'sustained',
  'drums',
];

/** Contrabass and tuba: of other families, and the bass where they play (common practice). */
const basses: readonly number[] = [43, 58];

/** The role that the families together make likeliest; `program` (from 0) is that of the likeliest instrument. */
export function roleOf(chances: readonly number[], program: number): Role {
  if (basses.includes(program)) return 'bass';
  const sums = new Map<Role, number>();
  chances.forEach((chance, family) =>
    sums.set(roles[family]!, (sums.get(roles[family]!) ?? 0) + chance),
  );
  return [...sums].reduce((best, one) => (one[1] > best[1] ? one : best))[0];
}

/** The usual instrument of a family for a part of this range and kind, by its program from 0 (common practice). */
export function typicalProgram(family: number, f: Features): number {
  const by = (...steps: readonly (readonly [above: number, program: number])[]): number =>
    steps.find(([above]) => f.mean > above)![1];
  const all = -1;
  switch (family) {
    case 1:
      return by([84, 9], [66, 11], [all, 12]);
    case 3:
      return f.alone > 0.8 ? 30 : f.short > 0.6 ? 28 : 27;
    case 4:
      return 33;
    case 5:
      return by([67, 40], [58, 41], [45, 42], [all, 43]);
    case 7:
      return f.chordsOfThree > 0.2 ? 61 : by([63, 56], [54, 60], [44, 57], [all, 58]);
    case 8:
      return by([74, 68], [66, 71], [57, 65], [48, 66], [all, 70]);
    case 9:
      return by([84, 72], [all, 73]);
    case 10:
      return f.alone > 0.8 ? 81 : 80;
    case 11:
      return 89;
    default:
      return [0, 0, 16, 0, 0, 0, 48, 0, 0, 0, 0, 0, 98, 105, 115, 122][family]!;
  }
}
