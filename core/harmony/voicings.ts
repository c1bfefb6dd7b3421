import type { Track } from '../song/song.ts';
import type { TickSpan } from '../song/scope.ts';
import { chordText, degreeOf, type Chord } from './chord.ts';
import { bitsOf, namesOf, type NamedChord } from './name-tones.ts';
import { pitchedNotes } from './pitched-notes.ts';
import { pitchClass, type KeySpelling } from './spelling.ts';

/** Notes of a part that begin together. */
export interface NoteGroup {
  readonly atTick: number;
  /** Where the longest of them ends. */
  readonly toTick: number;
  /** Indices into the part's pitched notes, from the lowest key up. */
  readonly notes: readonly number[];
}

/** Notes nearer together than this part of a quarter begin together. */
export const togetherShare = 1 / 16;

/** The notes of a track that begin in a span, those that begin together as one; in the order of time. */
export function groupsOf(
  track: Track,
  quarter: number,
  span: TickSpan = { from: 0, to: Infinity },
): NoteGroup[] {
  const { count, from, to, key, row } = pitchedNotes(track, quarter);
  const near = quarter * togetherShare;
  const groups: NoteGroup[] = [];
  let open: number[] = [];
  const close = (): void => {
    if (open.length === 0) return;
    const notes = open.sort((a, b) => key[a]! - key[b]!);
    groups.push({
      atTick: notes.reduce((least, n) => Math.min(least, from[n]!), Infinity),
      toTick: notes.reduce((most, n) => Math.max(most, to[n]!), 0),
      notes,
    });
    open = [];
  };
  let begins = -Infinity;
  for (let n = 0; n < count; n++) {
    const inside = span.rows
      ? span.rows[row[n]!] === 1
      : from[n]! >= span.from && from[n]! < span.to;
    if (!inside) continue;
    if (from[n]! - begins > near) {
      close();
      begins = from[n]!;
    }
    open.push(n);
  }
  close();
  return groups;
}

/** A voicing of a part: what it is called, and its notes from the lowest up. */
export interface Voicing {
  readonly atTick: number;
  readonly toTick: number;
  readonly keys: readonly number[];
  /** What it may be called, best first; none where it is no usual chord. */
  readonly names: readonly (NamedChord & { readonly name: string })[];
  /** Degrees over the root of the first name, from the lowest note up. */
  readonly degrees: readonly string[];
}

/** Two pitches at least make a voicing. */
export const isVoicing = (keys: readonly number[]): boolean =>
  new Set(keys.map(pitchClass)).size > 1;

/** A voicing by its keys; `near` is a chord that is known to sound with it. */
export function voicingOf(
  keys: readonly number[],
  spelling: KeySpelling,
  near?: Chord,
): Pick<Voicing, 'names' | 'degrees'> {
  const names = namesOf(bitsOf(keys), pitchClass(Math.min(...keys)), near).map((named) => ({
    ...named,
    name: chordText(named.chord, spelling),
  }));
  const [best] = names;
  return {
    names,
    degrees: best ? keys.map((key) => degreeOf(best.chord, pitchClass(key))) : [],
  };
}
