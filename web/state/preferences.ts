import { create } from 'zustand';

export type Theme = 'day' | 'night';

/** What the reader prefers, kept in this browser. */
interface Preferences {
  readonly theme: Theme;
  /** Octave number of middle C (key 60). */
  readonly middleC: 3 | 4 | 5;
  /** Whether the strip has its converter; where that was never said, on the timing alone. */
  readonly converter: boolean | undefined;
  /** Whether chords are shown on the strip, over the notes and in the event list. */
  readonly chords: boolean;
  setChords(shown: boolean): void;
  setTheme(theme: Theme): void;
  setMiddleC(octave: 3 | 4 | 5): void;
  setConverter(shown: boolean): void;
}

function kept(name: string): string | null {
  try {
    return localStorage.getItem(name);
  } catch {
    return null;
  }
}

function keep(name: string, value: string): void {
  try {
    localStorage.setItem(name, value);
  } catch {
    // A browser that keeps nothing still shows everything.
  }
}

export const usePreferences = create<Preferences>((set) => ({
  theme: document.documentElement.dataset.theme === 'night' ? 'night' : 'day',
  middleC: ([3, 4, 5] as const).find((o) => String(o) === kept('middleC')) ?? 4,
  converter: ({ shown: true, hidden: false } as Record<string, boolean>)[kept('converter') ?? ''],
  chords: kept('chords') !== 'hidden',
  setChords: (chords) => {
    keep('chords', chords ? 'shown' : 'hidden');
    set({ chords });
  },
  setTheme: (theme) => {
    document.documentElement.dataset.theme = theme;
    keep('theme', theme);
    set({ theme });
  },
  setConverter: (converter) => {
    keep('converter', converter ? 'shown' : 'hidden');
    set({ converter });
  },
  setMiddleC: (middleC) => {
    keep('middleC', String(middleC));
    set({ middleC });
  },
}));
