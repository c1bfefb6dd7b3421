import { lazy, Suspense, type ComponentType, type ReactElement } from 'react';
import { fetchLater } from '../components/fetch-later.ts';

/**
 * Screens beside the list of songs and the sheet come when they are first gone to, or while the page has
 * nothing else to do: the first is there sooner.
 */
function later<Name extends string>(
  load: () => Promise<Record<Name, ComponentType>>,
  name: Name,
): ReactElement {
  fetchLater(load);
  const Screen: ComponentType = lazy(async (): Promise<{ default: ComponentType }> => ({
    default: (await load())[name],
  }));
  return (
    <Suspense
      fallback={
        <main aria-label="Opening" className="px-6 py-5 text-faint">
          Opening …
        </main>
      }
    >
      <Screen />
    </Suspense>
  );
}

export const intakeScreen = later(() => import('./intake/intake-screen.tsx'), 'IntakeScreen');
export const noteScreen = later(() => import('./notes/note-screen.tsx'), 'NoteScreen');
export const lanesScreen = later(() => import('./lanes/lanes-screen.tsx'), 'LanesScreen');
export const timingScreen = later(() => import('./timing/timing-screen.tsx'), 'TimingScreen');
export const harmonyScreen = later(() => import('./harmony/harmony-screen.tsx'), 'HarmonyScreen');
export const arrangeScreen = later(() => import('./arrange/arrange-screen.tsx'), 'ArrangeScreen');
export const eventScreen = later(() => import('./events/event-screen.tsx'), 'EventScreen');
export const handoffScreen = later(() => import('./handoff/handoff-screen.tsx'), 'HandoffScreen');
export const historyScreen = later(() => import('./history/history-screen.tsx'), 'HistoryScreen');
export const receiversScreen = later(
  () => import('./receivers/receivers-screen.tsx'),
  'ReceiversScreen',
);
export const recipesScreen = later(() => import('./recipes/recipes-screen.tsx'), 'RecipesScreen');

export const instrumentsScreen = later(
  () => import('./instruments/instruments-screen.tsx'),
  'InstrumentsScreen',
);

export const shelfScreen = later(() => import('./shelf/shelf-screen.tsx'), 'ShelfScreen');
export const songShelfScreen = later(() => import('./shelf/shelf-screen.tsx'), 'SongShelfScreen');
