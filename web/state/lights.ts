import { create } from 'zustand';

const place = 'lights';

function kept(): boolean {
  try {
    return localStorage.getItem(place) === 'shown';
  } catch {
    return false;
  }
}

/** Whether keys, pads or frets are lit by what sounds. Kept in this browser. */
interface Lights {
  readonly shown: boolean;
  toggle(): void;
}

export const useLights = create<Lights>((set, get) => ({
  shown: kept(),
  toggle: () => {
    const shown = !get().shown;
    set({ shown });
    try {
      localStorage.setItem(place, shown ? 'shown' : 'hidden');
    } catch {
      // A browser that keeps nothing has it in this window only.
    }
  },
}));
