import { create } from 'zustand';
import { usePreparedStep } from './step.ts';

/** Which tracks are selected, per song: the scope of the next step, shared by every view of the song. */
interface ScopeState {
  readonly song: string;
  readonly tracks: ReadonlySet<string>;
  /** Where a range selection begins. */
  readonly anchor: string | undefined;
  open(song: string): void;
  select(tracks: Iterable<string>, anchor?: string): void;
}

const none: ReadonlySet<string> = new Set();

export const useScope = create<ScopeState>((set) => ({
  song: '',
  tracks: none,
  anchor: undefined,
  open: (song) => {
    usePreparedStep.getState().prepare(undefined);
    set((state) => (state.song === song ? state : { song, tracks: none, anchor: undefined }));
  },
  select: (tracks, anchor) => set((state) => ({ tracks: new Set(tracks), anchor: anchor ?? state.anchor })),
}));
