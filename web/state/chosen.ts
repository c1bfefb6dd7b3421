import { useEffect } from 'react';
import { create } from 'zustand';
import type { TrackView } from '#contracts/songs.ts';
import type { Events } from '#core/smf/events.ts';
import type { EventIndex } from '#core/song/event-index.ts';
import { spansOf } from './spans.ts';

/** Notes or events that are chosen by hand in the view that is open: a scope for steps, and what is copied. */
export interface ChosenEvents {
  readonly says: 'note' | 'event';
  readonly count: number;
  /** Of the song that its rows are of. */
  readonly revision: number;
  /** The track that the hand is on: what is pasted goes there. */
  readonly track: string | undefined;
  /** By track, spans of rows. */
  rows(): Readonly<Record<string, [number, number][]>>;
  /** From the first tick to the last. */
  ticks(): { readonly from: number; readonly to: number } | undefined;
}

export const useChosen = create<{ chosen: ChosenEvents | undefined }>(() => ({
  chosen: undefined,
}));

interface Shown {
  readonly revision: number;
  readonly tracks: readonly TrackView[];
  readonly events: readonly Events[];
  /** The track that the hand is on. */
  readonly track: string | undefined;
}

/** Tells which rows of a list are chosen while the calling view is open, and the track that the hand is on. */
export function useTellChosen(
  says: ChosenEvents['says'],
  chosen: ReadonlySet<number>,
  index: EventIndex,
  { revision, tracks, events, track }: Shown,
): void {
  useEffect(() => {
    const rows = (): ReturnType<ChosenEvents['rows']> => spansOf(chosen, index, tracks);
    const ticks = (): ReturnType<ChosenEvents['ticks']> => {
      let [from, to] = [Infinity, 0];
      for (const n of chosen) {
        const { atTick } = events[index.track[n]!]!;
        from = Math.min(from, atTick[index.row[n]!]!);
        to = Math.max(to, atTick[index.row[n]!]!);
      }
      return from > to ? undefined : { from, to };
    };
    useChosen.setState({ chosen: { says, count: chosen.size, revision, track, rows, ticks } });
    return () => useChosen.setState({ chosen: undefined });
  }, [says, chosen, index, revision, tracks, events, track]);
}
