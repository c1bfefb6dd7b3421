import { Tooltip } from 'radix-ui';
import { useEffect } from 'react';
import { BrowserRouter, Route, Routes } from 'react-router';
import { CommandPalette } from './palette/command-palette.tsx';
import { DropAnywhere } from './components/drop-anywhere.tsx';
import { usePreferencesKept } from './api/preferences.ts';
import { Keys } from './keys/keys.tsx';
import { fetchScreens } from './components/fetch-later.ts';
import { PageProblem } from './components/problem-note.tsx';
import {
  arrangeScreen,
  harmonyScreen,
  eventScreen,
  handoffScreen,
  historyScreen,
  instrumentsScreen,
  intakeScreen,
  lanesScreen,
  noteScreen,
  receiversScreen,
  recipesScreen,
  shelfScreen,
  songShelfScreen,
  timingScreen,
} from './screens/screens.tsx';
import { SheetScreen } from './screens/sheet/sheet-screen.tsx';
import { SongFrame } from './screens/song/song-frame.tsx';
import { SongsScreen } from './screens/songs/songs-screen.tsx';

const nowhere = {
  code: 'no-view',
  message: 'There is no such page',
  where: {},
  expected: 'a page of this site',
  found: 'another address',
  remedy: 'The songs are a good place to begin again.',
};

export function App() {
  useEffect(fetchScreens, []);
  usePreferencesKept();
  return (
    <Tooltip.Provider delayDuration={250}>
      <BrowserRouter>
        <DropAnywhere />
        <CommandPalette />
        <Keys />
        <Routes>
          <Route path="/" element={<SongsScreen />} />
          <Route path="/songs/:id" element={<SongFrame />}>
            <Route index element={<SheetScreen />} />
            <Route path="in" element={intakeScreen} />
            <Route path="notes" element={noteScreen} />
            <Route path="lanes" element={lanesScreen} />
            <Route path="timing" element={timingScreen} />
            <Route path="harmony" element={harmonyScreen} />
            <Route path="arrange" element={arrangeScreen} />
            <Route path="events" element={eventScreen} />
            <Route path="out" element={handoffScreen} />
            <Route path="shelf" element={songShelfScreen} />
            <Route path="history" element={historyScreen} />
          </Route>
          <Route path="/receivers" element={receiversScreen} />
          <Route path="/recipes" element={recipesScreen} />
          <Route path="/shelf" element={shelfScreen} />
          <Route path="/instruments" element={instrumentsScreen} />
          <Route path="*" element={<PageProblem problem={nowhere} />} />
        </Routes>
      </BrowserRouter>
    </Tooltip.Provider>
  );
}
