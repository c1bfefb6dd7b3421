import { useEffect } from 'react';
import { create } from 'zustand';
import type { TempoPoint } from '#core/timing/timing.ts';

/** The tempos that a step being prepared would leave, for the tempo line to show beside those that are. */
export const useShownTempos = create<{ readonly tempos: readonly TempoPoint[] | undefined }>(
  () => ({ tempos: undefined }),
);

/** Shows them as long as the caller does. */
export function useShowTempos(tempos: readonly TempoPoint[] | undefined): void {
  useEffect(() => {
    useShownTempos.setState({ tempos });
    return () => useShownTempos.setState({ tempos: undefined });
  }, [tempos]);
}
