import type { z } from 'zod';
import type { Result } from '../problems/problems.ts';
import type { Applied, Report } from '../edit/report.ts';
import type { Scope } from '../song/scope.ts';
import type { Song } from '../song/song.ts';
import type { SourceName, Sources } from './sources.ts';

export { emptyReport, type Applied, type Change, type Report } from '../edit/report.ts';

/**
 * One kind of edit, whole: everything else (the API's list, validation, history, forms, docs, the suite of laws)
 * is made from this. A frozen plain object; `id` is permanent, `version` rises when the settings change their meaning.
 */
export interface Operation<Settings extends z.ZodObject = z.ZodObject> {
  readonly id: `${string}.${string}`;
  readonly version: number;
  readonly title: string;
  /** One sentence for somebody who has not used it. */
  readonly summary: string;
  readonly group:
    | 'song'
    | 'timing'
    | 'bars'
    | 'tracks'
    | 'events'
    | 'controllers'
    | 'velocity'
    | 'notes'
    | 'chords';
  /**
   * What of a scope it obeys: nothing (`song`), its tracks, tracks and bars (`events`), or bars that it
   * cannot do without, since it moves them (`bars`). A scope with bars is refused where they would be
   * passed over, one without where they are needed.
   */
  readonly scope: 'song' | 'tracks' | 'events' | 'bars';
  /** It works on events that are chosen by hand, too. */
  readonly takesRows?: true;
  /** A strict object; every field has a title and, where it counts something, a unit in its metadata. */
  readonly settings: Settings;
  /**
   * Settings as an older version took them, as this one takes them; absent where all versions read the same
   * settings alike. They are checked after it.
   */
  upgrade?(settings: Readonly<Record<string, unknown>>, from: number): Record<string, unknown>;
  /**
   * What its settings take from outside the song; absent where it needs nothing else. Whoever runs a step
   * fetches it, and `apply` finds all of it in `sources`.
   */
  sources?(settings: z.infer<Settings>): readonly SourceName[];
  apply(song: Song, settings: z.infer<Settings>, scope: Scope, sources: Sources): Result<Applied>;
  /** What was done, in one past-tense line. */
  describe(settings: z.infer<Settings>, report: Report, scope: Scope): string;
  readonly examples: readonly Example<Settings>[];
  /**
   * It names rows, ticks or points of one revision, as a hand on the page does: no form is made of it, and
   * no recipe can hold it.
   */
  readonly byHand?: true;
  /** It runs other operations one by one, each of which held its own laws. */
  readonly runsOthers?: true;
}

export interface Example<Settings extends z.ZodObject = z.ZodObject> {
  readonly says: string;
  readonly settings: z.input<Settings>;
  readonly scope?: Scope;
}

/** Keeps the settings' type while the list holds operations of all kinds. */
export const defineOperation = <S extends z.ZodObject>(operation: Operation<S>): Operation =>
  Object.freeze(operation) as unknown as Operation;
