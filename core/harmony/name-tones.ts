import type { Chord } from './chord.ts';
import { qualities, type Quality } from './qualities.ts';
import { pitchClass, type PitchClass } from './spelling.ts';

/** A chord that notes may be, with how sure (0–1). */
export interface NamedChord {
  readonly chord: Chord;
  readonly sure: number;
  /** Degrees of the chord that do not sound. */
  readonly missing: readonly string[];
}

/** What a note below that is not the root costs, by its degree. */
const inversion: Readonly<Record<string, number>> = {
  '3': 0.6,
  b3: 0.6,
  '5': 0.7,
  b5: 0.9,
  '#5': 1,
  b7: 1.1,
  '7': 1.1,
  bb7: 0.6,
};
const costs = {
  fifth: 0.5,
  barefifth: 1.2,
  ninth: 0.6,
  root: 2.2,
  strangeBass: 1.5,
  bassDegree: 1.6,
};
/** How much dearer a name is that is half as sure. */
const scale = 0.45;

/**
 * What the notes of a voicing may be called, best first: over every root every usual chord that has just
 * these notes, a fifth or (under a thirteenth) a ninth that is left out, a root that somebody else plays, a
 * bass that is foreign to it. Nothing where fewer than two pitches sound, or they are no usual chord.
 *
 * @param bits pitch classes that sound, bit 0 for C.
 * @param bass the lowest of them.
 * @param near a chord that is known to sound there: a name with its root is preferred.
 */
export function namesOf(bits: number, bass: PitchClass, near?: Chord): NamedChord[] {
  const found: { chord: Chord; cost: number; missing: string[] }[] = [];
  for (let root = 0; root < 12; root++)
    for (const quality of qualities) {
      const fits = costOf(quality, root, bits, bass);
      if (!fits) continue;
      const cost = fits.cost - (near?.root === root ? 0.9 : 0);
      found.push({
        chord: { root, quality, ...(bass === root || fits.rootless ? {} : { bass }) },
        cost,
        missing: fits.missing,
      });
    }
  found.sort((a, b) => a.cost - b.cost || a.chord.root - b.chord.root);
  const best = found[0]?.cost ?? 0;
  const weight = (cost: number): number => Math.exp(-(cost - best) / scale);
  const all = found.reduce((sum, f) => sum + weight(f.cost), 0);
  return found
    .slice(0, 5)
    .map(({ chord, cost, missing }) => ({ chord, missing, sure: weight(cost) / all }));
}

/** The pitch classes of keys as bits. */
export const bitsOf = (keys: Iterable<number>): number => {
  let bits = 0;
  for (const key of keys) bits |= 1 << pitchClass(key);
  return bits;
};

/** What it costs to call these notes so; undefined where they are something else. */
function costOf(
  quality: Quality,
  root: PitchClass,
  bits: number,
  bass: PitchClass,
): { cost: number; missing: string[]; rootless: boolean } | undefined {
  // The notes as seen from this root.
  const over = ((bits >> root) | (bits << (12 - root))) & 0xfff;
  const below = pitchClass(bass - root);
  const extra = over & ~quality.bits;
  const strange = extra === 1 << below;
  if (extra !== 0 && !strange) return undefined;
  let cost = quality.rare;
  const absent = quality.bits & ~over;
  const missing = quality.degrees.filter((_, n) => absent & (1 << quality.tones[n]!));
  if (quality.degrees.length - missing.length < 2) return undefined;
  let rootless = false;
  for (const degree of missing) {
    if (degree === '5' && quality.degrees.length > 2)
      cost += quality.degrees.length > 3 ? costs.fifth : costs.barefifth;
    else if (degree === '9' && quality.degrees.includes('13')) cost += costs.ninth;
    else if (degree === '1' && quality.degrees.length > 3 && !strange) {
      // Others may play the root of what has its third and its seventh.
      rootless = true;
      cost += costs.root;
    } else return undefined;
  }
  if (rootless && missing.length > 1 && (missing.length > 2 || quality.degrees.length < 5))
    return undefined;
  if (strange) cost += costs.strangeBass + (quality.degrees.length > 3 ? 0.8 : 0);
  else if (below !== 0 && !rootless) {
    const degree = quality.degrees[quality.tones.indexOf(below)]!;
    cost += inversion[degree] ?? costs.bassDegree;
  }
  return { cost, missing, rootless };
}
