import { create } from 'zustand';

/** What is heard: of which song, and where it is. */
interface PlayingState {
  readonly song: string | undefined;
  readonly state: 'silent' | 'loading' | 'playing';
  /** Where it is, or would begin. */
  readonly seconds: number;
}

export const usePlaying = create<PlayingState>(() => ({
  song: undefined,
  state: 'silent',
  seconds: 0,
}));
