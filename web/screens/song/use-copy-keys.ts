import { useCallback, useEffect, useEffectEvent, useMemo } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import type { SongView } from '#contracts/songs.ts';
import { isTyping } from '../../components/is-typing.ts';
import { count } from '../../components/text.ts';
import { useOffer } from '../../state/commands.ts';
import { copy, pasteInto, useCopied } from '../../state/copied.ts';
import { useScope } from '../../state/scope.ts';

/** Ctrl or ⌘ with C copies the selected tracks, V takes them into the song that is open: what they hold is shown first. */
export function useCopyKeys(song: SongView): void {
  const navigate = useNavigate();
  const selected = useScope((s) => s.tracks);
  const had = useCopied((s) => s.copied);
  const tracks = useMemo(
    () => song.tracks.filter((t) => selected.has(t.id)).map((t) => t.id),
    [song.tracks, selected],
  );
  const take = useCallback((): void => {
    copy({ song: song.id, revision: song.revision, title: song.title, tracks });
    toast(`Copied ${count(tracks.length, 'track')} of ${song.title}`, {
      description: 'V brings them into the song that is open then.',
    });
  }, [song.id, song.revision, song.title, tracks]);
  const paste = useCallback((): void => {
    if (had) void navigate(pasteInto(song.id, had));
    else toast('No tracks are copied', { description: 'Select some on a sheet, then Ctrl+C.' });
  }, [song.id, had, navigate]);
  const onKey = useEffectEvent((e: KeyboardEvent): void => {
    const key = e.key.toLowerCase();
    if (isTyping(e.target) || e.altKey || e.shiftKey || e.defaultPrevented) return;
    // Words that are marked on the page are what is meant.
    const copies = key === 'c' && (e.ctrlKey || e.metaKey) && `${getSelection()}` === '';
    if (copies && tracks.length > 0) take();
    else if (key === 'v' && !e.ctrlKey && !e.metaKey) paste();
    else return;
    e.preventDefault();
  });
  useEffect(() => {
    const listener = (e: KeyboardEvent): void => onKey(e);
    addEventListener('keydown', listener);
    return () => removeEventListener('keydown', listener);
  }, []);
  const commands = useMemo(
    () => [
      ...(tracks.length > 0
        ? [{ title: `Copy ${count(tracks.length, 'track')}`, keys: 'Ctrl C', run: take }]
        : []),
      ...(had
        ? [
            {
              title: `Bring in what was copied: ${count(had.tracks.length, 'track')} of ${had.title}`,
              keys: 'V',
              run: paste,
            },
          ]
        : []),
    ],
    [tracks, had, take, paste],
  );
  useOffer('copy', commands);
}
