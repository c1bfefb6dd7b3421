import { useEffect } from 'react';
import { create } from 'zustand';
import type { TrackView } from '#contracts/songs.ts';
import type { EventIndex } from '#core/song/event-index.ts';
import { spansOf } from './spans.ts';

/** Notes or events that are chosen by hand in the view that is open, for copying. */
export interface ChosenEvents {
  readonly says: 'note' | 'event';
  readonly count: number;
  /** The track that the hand is on: what is pasted goes there. */
  readonly track: string | undefined;
  /** By track, spans of rows. */
  rows(): Readonly<Record<string, [number, number][]>>;
}

export const useChosen = create<{ chosen: ChosenEvents | undefined }>(() => ({
  chosen: undefined,
}));

/** Tells which rows of a list are chosen while the calling view is open, and the track that the hand is on. */
export function useTellChosen(
  says: ChosenEvents['says'],
  chosen: ReadonlySet<number>,
  index: EventIndex,
  tracks: readonly TrackView[],
  track: string | undefined,
): void {
  useEffect(() => {
    const rows = (): ReturnType<ChosenEvents['rows']> => spansOf(chosen, index, tracks);
    useChosen.setState({ chosen: { says, count: chosen.size, track, rows } });
    return () => useChosen.setState({ chosen: undefined });
  }, [says, chosen, index, tracks, track]);
}
