import { create } from 'zustand';
import type { ChangedKeys } from '#contracts/key-commands.ts';
import type { Stage } from '#contracts/stages.ts';
import type { PreferencesView } from '#contracts/preferences.ts';

export type Theme = 'day' | 'night';

/**
 * What the reader prefers. It is kept on the server, for whatever browser; this one keeps what is seen at
 * once, so that nothing changes its looks when the answer comes.
 */
interface Preferences {
  readonly theme: Theme;
  /** Whether somebody chose it; else it is the system's. */
  readonly themeChosen: boolean;
  /** Octave number of middle C (key 60). */
  readonly middleC: 3 | 4 | 5;
  /** Whether the strip has its converter; where that was never said, on the timing alone. */
  readonly converter: boolean | undefined;
  /** Whether chords are shown on the strip, over the notes and in the event list. */
  readonly chords: boolean;
  readonly lanesBy: 'track' | 'controller';
  readonly keys: ChangedKeys;
  /** Stages in which something was done once. */
  readonly used: readonly Stage[];
  /** Commands that were used last, by their titles. */
  readonly lately: readonly string[];
  /** Choices of a bring-in under a name. */
  readonly intakes: PreferencesView['intakes'];
  setIntakes(intakes: PreferencesView['intakes']): void;
  setChords(shown: boolean): void;
  setLanesBy(by: 'track' | 'controller'): void;
  setTheme(theme: Theme): void;
  setMiddleC(octave: 3 | 4 | 5): void;
  setConverter(shown: boolean): void;
  setKeys(keys: ChangedKeys): void;
  /** A command was used. */
  tookCommand(command: string): void;
  tookStage(stage: Stage): void;
}

const place = 'preferences';
const mostLately = 12;

function keptHere(): Partial<PreferencesView> {
  try {
    return JSON.parse(localStorage.getItem(place) ?? '{}') as Partial<PreferencesView>;
  } catch {
    return {};
  }
}

/** The document has the theme before anything is drawn: `index.html` reads it by this name. */
function keepHere(all: PreferencesView): void {
  try {
    localStorage.setItem(place, JSON.stringify(all));
    if (all.theme) localStorage.setItem('theme', all.theme);
  } catch {
    // A browser that keeps nothing still shows everything.
  }
}

const here = keptHere();

export const usePreferences = create<Preferences>((set) => ({
  theme: document.documentElement.dataset.theme === 'night' ? 'night' : 'day',
  themeChosen: here.theme !== undefined,
  middleC: here.middleC ?? 4,
  converter: here.converter,
  chords: here.chords ?? true,
  lanesBy: here.lanesBy ?? 'track',
  keys: here.keys ?? {},
  used: here.used ?? [],
  lately: here.lately ?? [],
  intakes: here.intakes ?? [],
  setIntakes: (intakes) => set({ intakes }),
  setChords: (chords) => set({ chords }),
  setLanesBy: (lanesBy) => set({ lanesBy }),
  setTheme: (theme) => {
    document.documentElement.dataset.theme = theme;
    set({ theme, themeChosen: true });
  },
  setMiddleC: (middleC) => set({ middleC }),
  setConverter: (converter) => set({ converter }),
  setKeys: (keys) => set({ keys }),
  tookStage: (stage) => set(({ used }) => (used.includes(stage) ? {} : { used: [...used, stage] })),
  tookCommand: (command) =>
    set(({ lately }) => ({
      lately: [command, ...lately.filter((c) => c !== command)].slice(0, mostLately),
    })),
}));

/** As the server keeps them. */
export function asKept(): PreferencesView {
  const { theme, themeChosen, converter, keys, used, lately, ...rest } = usePreferences.getState();
  const { middleC, chords, lanesBy, intakes } = rest;
  return {
    ...(themeChosen ? { theme } : {}),
    middleC,
    ...(converter === undefined ? {} : { converter }),
    chords,
    lanesBy,
    keys: { ...keys },
    used: [...used],
    lately: [...lately],
    intakes,
  };
}

/** What the server keeps becomes what is seen; what was never kept there stays as it is here. */
export function takeKept(kept: PreferencesView): void {
  if (kept.theme) usePreferences.getState().setTheme(kept.theme);
  usePreferences.setState((here) => ({
    middleC: kept.middleC ?? here.middleC,
    converter: kept.converter ?? here.converter,
    chords: kept.chords ?? here.chords,
    lanesBy: kept.lanesBy ?? here.lanesBy,
    keys: kept.keys,
    used: kept.used,
    lately: kept.lately,
    intakes: kept.intakes,
  }));
}

usePreferences.subscribe(() => keepHere(asKept()));
