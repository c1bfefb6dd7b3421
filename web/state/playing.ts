import { create } from 'zustand';

/** What is heard: of which song, and where it is. */
interface PlayingState {
  readonly song: string | undefined;
  readonly state: 'silent' | 'loading' | 'playing';
  /** Where it is, or would begin. */
  readonly seconds: number;
  /** Where it began the last time. */
  readonly began: number;
  /** How much of the sounds has come, from 0 to 1; undefined while none come. */
  readonly loaded: number | undefined;
}

export const usePlaying = create<PlayingState>(() => ({
  song: undefined,
  state: 'silent',
  seconds: 0,
  began: 0,
  loaded: undefined,
}));
