import { create } from 'zustand';

export type Theme = 'day' | 'night';

/** What the reader prefers, kept in this browser. */
interface Preferences {
  readonly theme: Theme;
  /** Octave number of middle C (key 60). */
  readonly middleC: 3 | 4 | 5;
  setTheme(theme: Theme): void;
  setMiddleC(octave: 3 | 4 | 5): void;
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
  setTheme: (theme) => {
    document.documentElement.dataset.theme = theme;
    keep('theme', theme);
    set({ theme });
  },
  setMiddleC: (middleC) => {
    keep('middleC', String(middleC));
    set({ middleC });
  },
}));
