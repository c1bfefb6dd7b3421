import type { Anchor } from '../timing/marks.ts';

/** What a list gives: the settings of `timing.places`, and what could not be read; line 0 is the list as a whole. */
export interface ListRead {
  readonly marks: {
    atTick: number;
    kind: 'marker' | 'cue point' | 'text';
    text: string;
    /** A place that is said as a time belongs to that. */
    anchor?: Anchor;
  }[];
  readonly tempos: { atTick: number; bpm: number }[];
  readonly meters: { atTick: number; numerator: number; denominator: number }[];
  readonly keys: { atTick: number; sharps: number; minor: boolean }[];
  readonly sections: { name: string; fromTick: number; toTick: number }[];
  /** A place of which the list does not say whether it is bars or seconds: nothing is read before somebody says it. */
  readonly asks?: string;
  readonly faults: { line: number; why: string }[];
}

/** What places are that are plain numbers. */
export type PlainPlaces = 'bars' | 'seconds';

export const emptyList = (): ListRead => ({
  marks: [],
  tempos: [],
  meters: [],
  keys: [],
  sections: [],
  faults: [],
});
