import type { Song } from '../song/song.ts';
import type { Moves } from '../timing/time-map.ts';

/** What came of an edit. */
export interface Applied {
  readonly song: Song;
  readonly report: Report;
  /**
   * How time moved, where it did: what points at places of the song follows it. A step that moves single
   * notes moves no time.
   */
  readonly moves?: Moves;
}

/** What a step did, in counts, track by track; empty exactly when nothing changed. */
export interface Report {
  readonly changes: readonly Change[];
  /** What was asked for and not done, and why. */
  readonly skipped: readonly {
    readonly track?: string;
    readonly name?: string;
    readonly why: string;
  }[];
  /** What whoever asked for it should know, in whole sentences. */
  readonly told?: readonly string[];
}

export interface Change {
  /** Id of the track; absent where the change is the song's own. */
  readonly track?: string;
  readonly name: string;
  readonly did: 'renamed' | 'removed' | 'moved' | 'added' | 'changed' | 'named';
  /** How many events of which kind were touched, for example `{ note: 120 }`. */
  readonly counts: Readonly<Record<string, number>>;
  readonly detail?: string;
}

export const emptyReport: Report = { changes: [], skipped: [] };
