import { create } from 'zustand';
import type { NamedRows } from '#core/song/rows.ts';
import type { SongView } from '#contracts/songs.ts';
import { useScope, type Bars } from './scope.ts';

/** Events that a finding is about, marked in every view until a step is taken or they are let go. */
export interface Marked {
  readonly song: string;
  /** Of the song that the rows are of. */
  readonly revision: number;
  /** The finding, as it is called, and its key. */
  readonly title: string;
  readonly finding: string;
  readonly rows: NamedRows;
  /** By track, ticks where they stand. */
  readonly ticks: Readonly<Record<string, readonly number[]>>;
  /** How many they are, in words. */
  readonly says: string;
  /** What was selected before: it is again, on the way back. */
  readonly before: { readonly tracks: readonly string[]; readonly bars: Bars | undefined };
}

export const useMarkedState = create<{ marked: Marked | undefined }>(() => ({
  marked: undefined,
}));

/** What is marked in a song as it is; nothing once it is another. */
export const useMarked = ({ id, revision }: SongView): Marked | undefined =>
  useMarkedState(({ marked }) =>
    marked?.song === id && marked.revision === revision ? marked : undefined,
  );

/** The first tick at which something is marked. */
export const firstMarked = (marked: Marked | undefined): number | undefined =>
  marked && Math.min(...Object.values(marked.ticks).map(([first]) => first ?? Infinity));

/** Marks events, and makes their tracks and bars the scope. */
export function mark(its: Omit<Marked, 'before'>, tracks: readonly string[], bars?: Bars): void {
  const scope = useScope.getState();
  const before = { tracks: [...scope.tracks], bars: scope.bars };
  scope.select(tracks, tracks[0]);
  scope.span(bars);
  useMarkedState.setState({ marked: { ...its, before } });
}

/** Lets them go; what was selected before is selected again. */
export function letGo(): void {
  const { marked } = useMarkedState.getState();
  if (!marked) return;
  const scope = useScope.getState();
  if (scope.song === marked.song) {
    scope.select(marked.before.tracks);
    scope.span(marked.before.bars);
  }
  useMarkedState.setState({ marked: undefined });
}

/** Whether a row is in spans that rise. */
export function isWithin(spans: NamedRows[string] | undefined, row: number): boolean {
  if (!spans) return false;
  let [low, high] = [0, spans.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (spans[middle]![1] < row) low = middle + 1;
    else high = middle;
  }
  return low < spans.length && spans[low]![0] <= row;
}

/** In place of the key of a finding: whichever is the first. */
export const firstFinding = 'the first';
