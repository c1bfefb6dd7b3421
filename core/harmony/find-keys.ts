import type { KeyPoint } from '../timing/timing.ts';
import { pitchClass, type KeySpelling, type PitchClass } from './spelling.ts';

/** A key: its tonic, and whether it is minor. */
export interface Key {
  readonly tonic: PitchClass;
  readonly minor: boolean;
}

/**
 * How often each degree of a key sounds (D. Temperley, “The Cognition of Basic Musical Structures”, from the
 * excerpts of Kostka and Payne's textbook; from memory).
 */
const major = [0.748, 0.06, 0.488, 0.082, 0.67, 0.46, 0.096, 0.715, 0.104, 0.366, 0.057, 0.4];
const minor = [0.712, 0.084, 0.474, 0.618, 0.049, 0.46, 0.105, 0.747, 0.404, 0.067, 0.133, 0.33];
const shares = (profile: readonly number[]): number[] => {
  const all = profile.reduce((a, b) => a + b, 0);
  return profile.map((p) => Math.log(p / all));
};
/** Minor with the sixth that is raised throughout, as in Dorian tunes. */
const dorian = minor.map((share, n) => (n === 8 ? minor[9]! : n === 9 ? minor[8]! : share));
const logs = { major: [shares(major)], minor: [shares(minor), shares(dorian)] };

export const keys: readonly Key[] = Array.from({ length: 24 }, (_, n) => ({
  tonic: n % 12,
  minor: n >= 12,
}));

/** Signature that a key is written with: F♯ major rather than G♭, E♭ minor rather than D♯. */
export function signatureOf({ tonic, minor }: Key): KeySpelling {
  const fifths = pitchClass((minor ? tonic + 3 : tonic) * 7);
  return { sharps: fifths > (minor ? 5 : 6) ? fifths - 12 : fifths, minor };
}

export const keyOfPoint = ({ sharps, minor }: KeySpelling): Key => ({
  tonic: pitchClass(sharps * 7 + (minor ? 9 : 0)),
  minor,
});

export const sameKey = (a: Key, b: Key): boolean => a.tonic === b.tonic && a.minor === b.minor;

/** Notes of a key as bits; in minor the raised sixth and seventh belong to it too. */
export const scaleBits = ({ tonic, minor }: Key): number =>
  (minor ? [0, 2, 3, 5, 7, 8, 9, 10, 11] : [0, 2, 4, 5, 7, 9, 11]).reduce(
    (bits, step) => bits | (1 << pitchClass(tonic + step)),
    0,
  );

/** How likely these pitches are in each of the 24 keys, as logarithms; the keys are those of {@link keys}. */
export function keyLikelihoods(weights: ArrayLike<number>, at = 0): Float64Array {
  const fits = new Float64Array(24);
  let all = 0;
  for (let pitch = 0; pitch < 12; pitch++) all += weights[at + pitch]!;
  if (all === 0) return fits;
  keys.forEach(({ tonic, minor: isMinor }, n) => {
    fits[n] = Math.max(
      ...(isMinor ? logs.minor : logs.major).map((log) => {
        let sum = 0;
        for (let pitch = 0; pitch < 12; pitch++)
          sum += weights[at + pitch]! * log[(pitch - tonic + 12) % 12]!;
        return sum;
      }),
    );
  });
  return fits;
}

/** What the song itself says of its key; C major is what files say that say nothing. */
export const saidKey = (points: readonly KeyPoint[], tick: number): KeySpelling | undefined => {
  const point = points.findLast((p) => p.atTick <= tick);
  return point && (point.sharps !== 0 || point.minor)
    ? { sharps: point.sharps, minor: point.minor }
    : undefined;
};
