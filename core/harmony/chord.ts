import type { Quality } from './qualities.ts';
import {
  noteIn,
  noteOfDegree,
  noteText,
  pitchClass,
  pitchOf,
  plainKey,
  type KeySpelling,
  type NoteName,
  type PitchClass,
} from './spelling.ts';

/** A chord: what stands over which root, and what is below it where that is not the root. */
export interface Chord {
  readonly root: PitchClass;
  readonly quality: Quality;
  readonly bass?: PitchClass;
}

export const bassOf = ({ root, bass }: Chord): PitchClass => bass ?? root;

/** Pitch classes of a chord in the order of its degrees; a bass that is none of them comes last. */
export function pitchesOf({ root, quality, bass }: Chord): PitchClass[] {
  const pitches = quality.tones.map((t) => pitchClass(root + t));
  return bass === undefined || pitches.includes(bass) ? pitches : [...pitches, bass];
}

export const sameChord = (a: Chord, b: Chord): boolean =>
  a.root === b.root && bassOf(a) === bassOf(b) && a.quality.bits === b.quality.bits;

/**
 * The chord as it is typed: `F#m7b5`, `C/E`. The root is called as the key calls it, the bass as a note of
 * the chord where it is one.
 */
export function chordText(chord: Chord, key: KeySpelling = plainKey): string {
  const root = rootName(chord, key);
  const name = noteText(root) + chord.quality.text;
  const { bass } = chord;
  return bass === undefined || bass === chord.root
    ? name
    : `${name}/${noteText(bassName(chord, root, bass, key))}`;
}

/** Names of the notes of a chord, in the order of its degrees: D F A C of `Dm7`. */
export function chordNotes(chord: Chord, key: KeySpelling = plainKey): string[] {
  const root = rootName(chord, key);
  const names = chord.quality.degrees.map((d) => noteText(noteOfDegree(root, d)));
  const { bass } = chord;
  return bass === undefined || chord.quality.tones.includes(pitchClass(bass - chord.root))
    ? names
    : [...names, noteText(noteIn(bass, key))];
}

/**
 * What its root is called: as the key has it, unless its third or fifth would need a double sharp or flat
 * then, or a plainer name is as near.
 */
export function rootName({ root, quality }: Chord, key: KeySpelling): NoteName {
  const usual = noteIn(root, key);
  const other = [...'CDEFGAB']
    .flatMap((letter) => [-1, 0, 1].map((sign) => ({ letter, sign }) as NoteName))
    .filter((note) => pitchOf(note) === root && note.letter !== usual.letter);
  const odd = (note: NoteName): number =>
    quality.degrees
      .filter((d) => /^(1|b?3|5)$/.test(d))
      .map((d) => Math.abs(noteOfDegree(note, d).sign))
      .reduce((sum, signs) => sum + (signs > 1 ? 1 : 0), Math.abs(note.sign) > 1 ? 1 : 0);
  return other.reduce((best, note) => (odd(note) < odd(best) ? note : best), usual);
}

function bassName(chord: Chord, root: NoteName, bass: PitchClass, key: KeySpelling): NoteName {
  const place = chord.quality.tones.indexOf(pitchClass(bass - chord.root));
  return place === -1 ? noteIn(bass, key) : noteOfDegree(root, chord.quality.degrees[place]!);
}

/** The degree of a pitch over a chord's root: one of the chord's, else what is usual there. */
export function degreeOf(chord: Chord, pitch: PitchClass): string {
  const up = pitchClass(pitch - chord.root);
  const place = chord.quality.tones.indexOf(up);
  return place === -1 ? strangers[up]! : chord.quality.degrees[place]!;
}
const strangers = ['1', 'b9', '9', 'b3', '3', '11', '#11', '5', 'b13', '13', 'b7', '7'];

/** The chord so many semitones higher. */
export const transposed = (chord: Chord, semitones: number): Chord => ({
  ...chord,
  root: pitchClass(chord.root + semitones),
  ...(chord.bass === undefined ? {} : { bass: pitchClass(chord.bass + semitones) }),
});

const flats: KeySpelling = { sharps: -3, minor: false };
const sharps: KeySpelling = { sharps: 3, minor: false };

/** Where no key is known: flats or sharps, as the chord needs fewer of. */
export function plainSpelling(chord: Chord): KeySpelling {
  const signs = (key: KeySpelling): number =>
    chordNotes(chord, key).reduce((sum, name) => sum + name.length - 1, 0);
  return signs(sharps) < signs(flats) ? sharps : flats;
}
