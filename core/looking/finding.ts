import type { Scope } from '../song/scope.ts';

/** Something the look-over noticed. It can be settled by a step, left alone, or opened at its place. */
export interface Finding {
  /** Rule and place: the same finding has the same key after other steps, so that "left alone" is remembered. */
  readonly key: string;
  readonly rule: string;
  /** What several findings of the rule are called together. */
  readonly heading: string;
  /** What it is, in a few words. */
  readonly title: string;
  /** Why it matters, as a musician would say it. */
  readonly why: string;
  /** Ids of the tracks it is about; empty where it is about the song. */
  readonly tracks: readonly string[];
  readonly bars?: { readonly from: number; readonly to: number };
  /** Of what it counts: notes, events, values. */
  readonly count: number;
  readonly sure: 'certain' | 'likely' | 'possible';
  /** Steps that would settle it, the one to be recommended first. */
  readonly settle: readonly Settling[];
}

export interface Settling {
  readonly title: string;
  readonly operation: string;
  readonly settings: Readonly<Record<string, unknown>>;
  readonly scope: Scope;
}

/** What a rule gives: the key is made from its id and the tracks. */
export type Noticed = Omit<Finding, 'key' | 'rule' | 'heading'>;

export const onTracks = (...tracks: readonly string[]): Scope => ({ tracks: [...tracks] });

/** The first few names, and how many more. */
export const listed = (names: readonly string[]): string =>
  names.length > 4
    ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more`
    : names.join(', ');
