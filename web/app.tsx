import { Tooltip } from 'radix-ui';
import { BrowserRouter, Route, Routes } from 'react-router';
import { Toaster } from 'sonner';
import { CommandPalette } from './components/command-palette.tsx';
import { DropAnywhere } from './components/drop-anywhere.tsx';
import { PageProblem } from './components/problem-note.tsx';
import { EventScreen } from './screens/events/event-screen.tsx';
import { HandoffScreen } from './screens/handoff/handoff-screen.tsx';
import { HistoryScreen } from './screens/history/history-screen.tsx';
import { LanesScreen } from './screens/lanes/lanes-screen.tsx';
import { NoteScreen } from './screens/notes/note-screen.tsx';
import { IntakeScreen } from './screens/intake/intake-screen.tsx';
import { RecipesScreen } from './screens/recipes/recipes-screen.tsx';
import { SheetScreen } from './screens/sheet/sheet-screen.tsx';
import { SongFrame } from './screens/song/song-frame.tsx';
import { SongsScreen } from './screens/songs/songs-screen.tsx';
import { TimingScreen } from './screens/timing/timing-screen.tsx';
import { usePreferences } from './state/preferences.ts';

const nowhere = { code: 'no-view', message: 'There is no such page', where: {}, expected: 'a page of this site', found: 'another address', remedy: 'The songs are a good place to begin again.' };

/** A message stays long enough to be read and to press what it offers; pointing at it holds it. */
const messageMs = 12_000;

export function App() {
  const theme = usePreferences((p) => p.theme);
  return (
    <Tooltip.Provider delayDuration={250}>
      <BrowserRouter>
        <DropAnywhere />
        <CommandPalette />
        <Routes>
          <Route path="/" element={<SongsScreen />} />
          <Route path="/songs/:id" element={<SongFrame />}>
            <Route index element={<SheetScreen />} />
            <Route path="in" element={<IntakeScreen />} />
            <Route path="notes" element={<NoteScreen />} />
            <Route path="lanes" element={<LanesScreen />} />
            <Route path="timing" element={<TimingScreen />} />
            <Route path="events" element={<EventScreen />} />
            <Route path="out" element={<HandoffScreen />} />
            <Route path="history" element={<HistoryScreen />} />
          </Route>
          <Route path="/recipes" element={<RecipesScreen />} />
          <Route path="*" element={<PageProblem problem={nowhere} />} />
        </Routes>
      </BrowserRouter>
      <Toaster theme={theme === 'night' ? 'dark' : 'light'} position="bottom-center" offset={160} duration={messageMs} toastOptions={{ className: '!bg-sheet !text-ink !border-line !font-sans', descriptionClassName: '!text-faint', actionButtonStyle: { background: 'var(--color-amber)', color: 'var(--color-on-amber)' } }} />
    </Tooltip.Provider>
  );
}
