import { bassOf, type Chord } from './chord.ts';
import { pitchClass, type PitchClass } from './spelling.ts';

/** How notes are brought to another chord: each to the nearest tone, or degree by degree. */
export type FitBy = 'nearest tones' | 'degrees';

/**
 * Keys of notes that begin together, from the lowest up, as they are in another chord: in the same order, no
 * two on one key where there are tones enough, and together as little moved as can be.
 *
 * @param pitches of the chord that they are brought to.
 */
export function toNearestTones(keys: readonly number[], pitches: readonly PitchClass[]): number[] {
  const tones = new Set(pitches);
  const targets: number[] = [];
  const [low, high] = [Math.max(0, keys[0]! - 12), Math.min(127, keys.at(-1)! + 12)];
  for (let key = low; key <= high; key++) if (tones.has(pitchClass(key))) targets.push(key);
  if (targets.length < keys.length) return keys.map((key) => nearest(key, targets) ?? key);
  // cost[i][j]: the least that the first i notes move where the i-th goes to one of the first j targets.
  const cost = Array.from({ length: keys.length + 1 }, () =>
    new Float64Array(targets.length + 1).fill(Infinity),
  );
  cost[0]!.fill(0);
  for (let i = 1; i <= keys.length; i++)
    for (let j = i; j <= targets.length; j++)
      cost[i]![j] = Math.min(
        cost[i]![j - 1]!,
        cost[i - 1]![j - 1]! + moved(keys[i - 1]!, targets[j - 1]!),
      );
  const found = new Array<number>(keys.length);
  for (let i = keys.length, j = targets.length; i > 0; j--)
    if (cost[i]![j] !== cost[i]![j - 1]) {
      found[i - 1] = targets[j - 1]!;
      i--;
    }
  return found;
}

/** A move down is dearer by a little, so that of two that are as near the upper is taken. */
const moved = (from: number, to: number): number => Math.abs(from - to) + (to < from ? 0.01 : 0);

const nearest = (key: number, targets: readonly number[]): number | undefined =>
  targets.reduce<number | undefined>(
    (best, t) => (best === undefined || moved(key, t) < moved(key, best) ? t : best),
    undefined,
  );

/** The number of a degree: the `b7` is a seventh. */
const numberOf = (degree: string): number => Number(degree.replace(/^[b#]+/, ''));

/**
 * A key as the same degree of another chord, the nearest way: the third of the one becomes the third of the
 * other; what is no degree of both goes to the nearest tone.
 */
export function byDegree(key: number, from: Chord, to: Chord): number | undefined {
  const place = from.quality.tones.indexOf(pitchClass(key - from.root));
  if (place === -1) return undefined;
  const number = numberOf(from.quality.degrees[place]!);
  const same = (degree: string): boolean => {
    const other = numberOf(degree);
    return (
      other === number ||
      (number === 3 && (other === 4 || other === 2)) ||
      ((number === 4 || number === 2) && other === 3) ||
      (number === 6 && other === 7) ||
      (number === 7 && other === 6)
    );
  };
  const exact = to.quality.degrees.findIndex((d) => numberOf(d) === number);
  const at = exact === -1 ? to.quality.degrees.findIndex(same) : exact;
  return at === -1 ? undefined : nearestOf(key, pitchClass(to.root + to.quality.tones[at]!));
}

/** The nearest key of a pitch class on the keyboard; of two that are as near the lower. */
export function nearestOf(key: number, pitch: PitchClass): number {
  const up = pitchClass(pitch - key);
  const wanted = up <= 5 ? key + up : key + up - 12;
  return wanted < 0 ? wanted + 12 : wanted > 127 ? wanted - 12 : wanted;
}

/** The lowest note of a group as the bass of a chord. */
export const asBass = (key: number, chord: Chord): number => nearestOf(key, bassOf(chord));
