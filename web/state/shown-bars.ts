import { create } from 'zustand';

/** Bars that something on a screen is about, as the strip shows them while it is pointed at. */
interface State {
  readonly bars: readonly { readonly from: number; readonly to: number }[];
  show(bars: State['bars']): void;
}

export const useShownBars = create<State>((set) => ({
  bars: [],
  show: (bars) => set({ bars }),
}));
