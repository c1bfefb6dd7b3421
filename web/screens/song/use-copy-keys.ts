import { keyNow } from '../../keys/shown.ts';
import { useCallback, useEffect, useEffectEvent, useMemo } from 'react';
import { useNavigate } from 'react-router';
import type { SongView } from '#contracts/songs.ts';
import { listCsv } from '#core/lists/map-csv.ts';
import { mapsOf } from '#core/song/maps.ts';
import { positionAt } from '#core/timing/meter-map.ts';
import { secondsToTicks } from '#core/timing/tempo-map.ts';
import { useStep } from '../../api/queries.ts';
import { textOf } from '../../desk/the-desk.ts';
import { commandOf } from '../../keys/pressed.ts';
import { isTyping } from '../../components/is-typing.ts';
import { count } from '../../components/text.ts';
import { pasteStep } from '../../intake/paste-events.ts';
import { useOffer } from '../../state/commands.ts';
import { useChosen } from '../../state/chosen.ts';
import { copy, pasteInto, useCopied, type Copied } from '../../state/copied.ts';
import { usePlaying } from '../../state/playing.ts';
import { pressedBar } from '../../state/pressed.ts';
import { useScope } from '../../state/scope.ts';
import { say, sayWrong } from '../../messages/messages.ts';

/**
 * Ctrl or ⌘ with C copies what is chosen by hand, else the selected tracks, else the scope's bars. V takes
 * it into the song that is open: events at once, at the place that is pressed or playing; of tracks is
 * shown first what they hold.
 */
export function useCopyKeys(song: SongView): void {
  const had = useCopied((s) => s.copied);
  const toCopy = useToCopy(song);
  const paste = usePaste(song);
  const take = useCallback((): void => {
    const what = toCopy();
    if (!what) return;
    copy(what);
    const paste = what.rows
      ? `${keyNow('paste')} puts them at the bar that is pressed on the strip, or plays.`
      : `${keyNow('paste')} brings them into the song that is open then, in this window or another.`;
    say(`Copied ${what.says} of ${what.title}`, { description: paste });
    void asText(song, what);
  }, [toCopy, song]);
  const onKey = useEffectEvent((e: KeyboardEvent): void => {
    if (isTyping(e.target) || e.defaultPrevented) return;
    const command = commandOf(e, 'song');
    // Words that are marked on the page are what is meant.
    if (command === 'copy' && `${getSelection()}` === '' && toCopy()) take();
    else if (command === 'paste') paste();
    else return;
    e.preventDefault();
  });
  useEffect(() => {
    const listener = (e: KeyboardEvent): void => onKey(e);
    addEventListener('keydown', listener);
    return () => removeEventListener('keydown', listener);
  }, []);
  const anything = useAnythingToCopy();
  const commands = useMemo(
    () => [
      ...(anything ? [{ title: 'Copy what is selected', key: 'copy' as const, run: take }] : []),
      ...(had
        ? [
            {
              title: `Paste what was copied: ${had.says} of ${had.title}`,
              key: 'paste' as const,
              run: paste,
            },
          ]
        : []),
      { title: 'Copy the markers and the map as text', run: () => void copyMap(song) },
    ],
    [anything, had, take, paste, song],
  );
  useOffer('copy', commands);
}

/**
 * The same as a list of events, for anything that takes text. A browser that lets no page write there keeps
 * what it had.
 */
async function asText(song: SongView, what: Copied): Promise<void> {
  try {
    await navigator.clipboard.writeText(await textOf(song, what));
  } catch {
    // What was copied is kept for this program all the same.
  }
}

/** The markers, and all else of the map, as comma-separated values. */
const copyMap = async (song: SongView): Promise<void> => {
  try {
    await navigator.clipboard.writeText(listCsv(song, mapsOf(song)));
    say('Copied the markers and the map', { description: 'As comma-separated values.' });
  } catch {
    sayWrong('The browser lets no page write to the clipboard', {
      description: 'Save the list on the Timing view instead.',
    });
  }
};

function useAnythingToCopy(): boolean {
  const events = useChosen((s) => (s.chosen?.count ?? 0) > 0);
  const scoped = useScope((s) => s.tracks.size > 0 || s.bars !== undefined);
  return events || scoped;
}

/** What there is to copy now; undefined where nothing is chosen. */
function useToCopy(song: SongView): () => Copied | undefined {
  return useCallback(() => {
    const { chosen } = useChosen.getState();
    const { tracks: selected, bars } = useScope.getState();
    const from = { song: song.id, revision: song.revision, title: song.title };
    if (chosen && chosen.count > 0) {
      const rows = chosen.rows();
      return { ...from, tracks: Object.keys(rows), rows, says: count(chosen.count, chosen.says) };
    }
    if (selected.size === 0 && !bars) return undefined;
    const all = song.tracks.filter((t) => selected.size === 0 || selected.has(t.id));
    const tracks = all.map((t) => t.id);
    const says = count(tracks.length, 'track');
    if (!bars) return { ...from, tracks, says };
    const span = bars.from === bars.to ? `bar ${bars.from}` : `bars ${bars.from} to ${bars.to}`;
    return { ...from, tracks, bars, says: `${span} of ${says}` };
  }, [song]);
}

function usePaste(song: SongView): () => void {
  const navigate = useNavigate();
  const { mutate, isPending } = useStep(song.id, song.revision);
  return useCallback(() => {
    const { copied } = useCopied.getState();
    if (!copied)
      say('Nothing is copied', {
        description: `Select tracks, bars, notes or events, then ${keyNow('copy')}.`,
      });
    else if (!copied.rows) void navigate(pasteInto(song.id, copied));
    else if (!isPending) mutate(pasteStep(copied, pastePlace(song)));
  }, [song, navigate, mutate, isPending]);
}

/**
 * The bar that is pressed on the strip, else the one that plays; the track that the hand is on, else the
 * only one that is selected.
 */
function pastePlace(song: SongView) {
  const { tracks } = useScope.getState();
  const { song: playing, seconds } = usePlaying.getState();
  const { meters, tempo } = mapsOf(song);
  const heard =
    playing === song.id && seconds > 0
      ? positionAt(meters, secondsToTicks(tempo, seconds)).bar
      : undefined;
  const selected = tracks.size === 1 ? [...tracks][0] : undefined;
  return {
    song: song.id,
    bar: pressedBar(song) ?? heard,
    track: useChosen.getState().chosen?.track ?? selected,
  };
}
