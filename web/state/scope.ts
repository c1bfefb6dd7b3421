import { create } from 'zustand';
import { usePreparedStep } from './step.ts';

/** First and last bar, both included. */
export interface Bars {
  readonly from: number;
  readonly to: number;
}

/** Which tracks and bars are selected, per song: the scope of the next step, shared by every view of the song. */
interface ScopeState {
  readonly song: string;
  readonly tracks: ReadonlySet<string>;
  /** Where a range selection begins. */
  readonly anchor: string | undefined;
  /** Undefined: all bars. */
  readonly bars: Bars | undefined;
  open(song: string): void;
  select(tracks: Iterable<string>, anchor?: string): void;
  span(bars: Bars | undefined): void;
}

const none: ReadonlySet<string> = new Set();

export const useScope = create<ScopeState>((set) => ({
  song: '',
  tracks: none,
  anchor: undefined,
  bars: undefined,
  open: (song) => {
    usePreparedStep.setState({ prepared: undefined, left: undefined });
    set((state) =>
      state.song === song ? state : { song, tracks: none, anchor: undefined, bars: undefined },
    );
  },
  span: (bars) => set({ bars }),
  select: (tracks, anchor) =>
    set((state) => ({ tracks: new Set(tracks), anchor: anchor ?? state.anchor })),
}));
