import { create } from 'zustand';

/** The place of a song that was pressed on the strip or typed, in ticks: what the converter says. */
interface PlaceState {
  readonly song: string;
  readonly tick: number;
  set(song: string, tick: number): void;
}

export const usePlace = create<PlaceState>((set) => ({
  song: '',
  tick: 0,
  set: (song, tick) => set({ song, tick }),
}));
