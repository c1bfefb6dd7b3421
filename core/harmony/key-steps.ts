import type { KeyPoint } from '../timing/timing.ts';

/** Seven-note scales as semitones above their tonic. Minor is natural minor. */
export const modes = {
  major: [0, 2, 4, 5, 7, 9, 11],
  minor: [0, 2, 3, 5, 7, 8, 10],
  'harmonic minor': [0, 2, 3, 5, 7, 8, 11],
  dorian: [0, 2, 3, 5, 7, 9, 10],
  phrygian: [0, 1, 3, 5, 7, 8, 10],
  lydian: [0, 2, 4, 6, 7, 9, 11],
  mixolydian: [0, 2, 4, 5, 7, 9, 10],
  locrian: [0, 1, 3, 5, 6, 8, 10],
} as const;
export type Mode = keyof typeof modes;

export const tonics = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'Gb', 'G', 'Ab', 'A', 'Bb', 'B'] as const;

export interface ScaleKey {
  /** Pitch class of the tonic, 0 is C. */
  readonly tonic: number;
  readonly mode: Mode;
}

/** The key that a key signature names: each sharp is a fifth up, a minor key lies a minor third below its major. */
export const keyOfSignature = ({
  sharps,
  minor,
}: Pick<KeyPoint, 'sharps' | 'minor'>): ScaleKey => ({
  tonic: (((sharps * 7 + (minor ? 9 : 0)) % 12) + 12) % 12,
  mode: minor ? 'minor' : 'major',
});

/** A key moved by steps of a scale. What lies between two steps keeps its distance from the one below. */
export function byKeySteps(key: number, steps: number, { tonic, mode }: ScaleKey): number {
  const scale = modes[mode];
  const above = key - tonic;
  const octave = Math.floor(above / 12);
  const within = above - octave * 12;
  let degree = 6;
  while (scale[degree]! > within) degree--;
  const wanted = degree + steps;
  const up = Math.floor(wanted / 7);
  return tonic + (octave + up) * 12 + scale[wanted - up * 7]! + (within - scale[degree]!);
}
