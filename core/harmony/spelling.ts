import type { KeyPoint } from '../timing/timing.ts';

/** 0 is C, 11 is B. */
export type PitchClass = number;

export const pitchClass = (key: number): PitchClass => ((key % 12) + 12) % 12;

/** Letters by fifths: each is a fifth above the one before it. */
const letters = 'FCGDAEB';
const semitonesOf = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 } as const;
type Letter = keyof typeof semitonesOf;
const inOrder = 'CDEFGAB';

/** A note by its name, without an octave; `sign` sharps, or flats where it is negative. */
export interface NoteName {
  readonly letter: Letter;
  readonly sign: number;
}

export const pitchOf = ({ letter, sign }: NoteName): PitchClass =>
  pitchClass(semitonesOf[letter] + sign);

/** As it is typed: `Bb`, `F#`, `Cbb`. */
export const noteText = ({ letter, sign }: NoteName): string =>
  letter + (sign < 0 ? 'b'.repeat(-sign) : '#'.repeat(sign));

/** The note whose name a text begins with, sharps and flats as signs or as # and b; undefined where it is none. */
export function noteAt(text: string): { note: NoteName; length: number } | undefined {
  const found = /^([A-G])(##?|♯♯?|x|bb?(?!\d)|b(?=\d)|♭♭?)?/.exec(text);
  if (!found) return undefined;
  const sign = found[2] ?? '';
  const sharps = sign === 'x' ? 2 : sign.length * (/^[#♯]/.test(sign) ? 1 : -1);
  return { note: { letter: found[1] as Letter, sign: sharps }, length: found[0].length };
}

/** Where a key lies on the line of fifths, and what its notes are called: C major where none is said. */
export type KeySpelling = Pick<KeyPoint, 'sharps' | 'minor'>;
export const plainKey: KeySpelling = { sharps: 0, minor: false };

/**
 * What a pitch is called in a key: from five fifths below the major tonic to six above, in minor two fifths
 * higher, where its leading note lies.
 */
export function noteIn(pitch: PitchClass, { sharps, minor }: KeySpelling): NoteName {
  const lowest = sharps - (minor ? 3 : 5);
  // Fifths up from C: 0 is C, 1 is G, −1 is F.
  const fifths = pitchClass(pitch * 7);
  return byFifths(lowest + pitchClass(fifths - lowest));
}

function byFifths(fifths: number): NoteName {
  const place = fifths + 1;
  return {
    letter: letters[((place % 7) + 7) % 7] as Letter,
    sign: Math.floor(place / 7),
  };
}

/** Semitones of the steps of a major scale, from 1. */
const steps = [0, 2, 4, 5, 7, 9, 11];

/** A degree over a root, as `b7` or `#11`: how many letters up, and how many semitones. */
export function degreeParts(degree: string): { letters: number; semitones: number } {
  const [, sign = '', number = '1'] = /^([b#]*)(\d+)$/.exec(degree) ?? [];
  const up = Number(number) - 1;
  const bent = sign.length * (sign[0] === 'b' ? -1 : 1);
  return { letters: up, semitones: steps[up % 7]! + 12 * Math.floor(up / 7) + bent };
}

/** Semitones within the octave of a degree over its root: `9` → 2. */
export const semitonesOfDegree = (degree: string): number =>
  pitchClass(degreeParts(degree).semitones);

/** What a degree over a root is called: the `b7` of D is C. */
export function noteOfDegree(root: NoteName, degree: string): NoteName {
  const parts = degreeParts(degree);
  const letter = inOrder[(inOrder.indexOf(root.letter) + parts.letters) % 7] as Letter;
  const wanted = pitchOf(root) + parts.semitones;
  const sign = pitchClass(wanted - semitonesOf[letter] + 6) - 6;
  return { letter, sign };
}
