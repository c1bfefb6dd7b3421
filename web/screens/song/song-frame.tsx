import { Redo2, Ruler, Undo2 } from 'lucide-react';
import { useEffect, useMemo } from 'react';
import { Link, Outlet, useNavigate, useParams } from 'react-router';
import { urlOf } from '#contracts/addresses.ts';
import type { SongView } from '#contracts/songs.ts';
import { problemOf } from '../../api/client.ts';
import { useRedo, useSong, useUndo } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { PageTools } from '../../components/page-tools.tsx';
import { PageProblem } from '../../components/problem-note.tsx';
import { useOffer } from '../../state/commands.ts';
import { useScope } from '../../state/scope.ts';
import { BarStrip } from './bar-strip.tsx';
import { isTyping } from '../../components/is-typing.ts';
import { ListenButton } from './listen-button.tsx';
import { Grip } from '../../components/grip.tsx';
import { outgoing } from '../../handoff/drag-out.ts';
import { SongTitle } from './song-title.tsx';
import { Trail } from './trail.tsx';
import { useBarsKey } from '../../step/bars-of-chosen.ts';
import { useConverter } from './use-converter.ts';
import { useCopyKeys } from './use-copy-keys.ts';
import { useStepCommands } from './use-step-commands.ts';
import { ToggleButton } from '../../components/toggle-button.tsx';

/** The frame every view of a song shares: trail at the left, bar strip along the bottom, the view between. */
export function SongFrame() {
  const { id = '' } = useParams();
  const song = useSong(id);
  const open = useScope((s) => s.open);
  useEffect(() => open(id), [id, open]);
  if (song.isError) return <PageProblem problem={problemOf(song.error)} />;
  if (!song.data) return <p className="p-10 text-faint">Opening …</p>;
  return <Frame song={song.data} />;
}

function Frame({ song }: { song: SongView }) {
  const undo = useUndo(song.id);
  const redo = useRedo(song.id);
  useUndoKeys(song, undo.mutate, redo.mutate);
  useSongCommands(song, undo.mutate, redo.mutate);
  useCopyKeys(song);
  useStepCommands(song);
  useBarsKey(song);
  useEffect(() => {
    document.title = `${song.title} · Amber Satchel`;
    return () => void (document.title = 'Amber Satchel');
  }, [song.title]);
  return (
    <div className="grid h-full min-h-0 grid-cols-[58px_minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)_auto] xl:grid-cols-[128px_minmax(0,1fr)]">
      <header className="col-span-2 flex items-center gap-3 border-b border-line px-3 py-1.5">
        <Link to="/" className="flex items-center gap-2" title="All songs" aria-label="All songs">
          <img src="/mark.svg" alt="" width={26} height={26} />
        </Link>
        <SongTitle song={song} />
        <Grip says="The whole song as a file" out={() => outgoing(song.id, song.title, {})} />
        <div className="ml-auto flex items-center gap-1">
          <ConverterButton />
          <ListenButton song={song} />
          <Button
            kind="quiet"
            disabled={!song.undo || undo.isPending}
            onClick={() => undo.mutate()}
            title={song.undo ? `Undo: ${song.undo} (Ctrl+Z)` : 'Nothing to undo'}
            aria-label="Undo"
          >
            <Undo2 size={16} aria-hidden />
          </Button>
          <Button
            kind="quiet"
            disabled={!song.redo || redo.isPending}
            onClick={() => redo.mutate()}
            title={song.redo ? `Redo: ${song.redo} (Ctrl+Shift+Z)` : 'Nothing to redo'}
            aria-label="Redo"
          >
            <Redo2 size={16} aria-hidden />
          </Button>
          <PageTools />
        </div>
      </header>
      <Trail song={song} />
      <Outlet context={song} />
      <BarStrip song={song} />
    </div>
  );
}

/** Shows the converter of places on the strip, or puts it away. */
function ConverterButton() {
  const [shown, show] = useConverter();
  return (
    <ToggleButton
      kind="quiet"
      pressed={shown}
      set={show}
      title={`${shown ? 'Put the converter of places away' : 'Any place in bars, seconds, timecode, frames, samples'}`}
      aria-label="Converter of places"
    >
      <Ruler size={16} aria-hidden />
    </ToggleButton>
  );
}

function useUndoKeys(song: SongView, undo: () => void, redo: () => void): void {
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (!(e.ctrlKey || e.metaKey) || isTyping(e.target)) return;
      const key = e.key.toLowerCase();
      const back = key === 'z' && !e.shiftKey;
      const forth = (key === 'z' && e.shiftKey) || key === 'y';
      if (!back && !forth) return;
      e.preventDefault();
      if (back && song.undo) undo();
      if (forth && song.redo) redo();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [song, undo, redo]);
}

function useSongCommands(song: SongView, undo: () => void, redo: () => void): void {
  const navigate = useNavigate();
  const [converting, convert] = useConverter();
  const commands = useMemo(
    () => [
      ...(song.undo ? [{ title: `Undo: ${song.undo}`, keys: 'Ctrl Z', run: undo }] : []),
      ...(song.redo ? [{ title: `Redo: ${song.redo}`, keys: 'Ctrl Shift Z', run: redo }] : []),
      { title: 'Bring in: what was received', run: () => void navigate(`/songs/${song.id}/in`) },
      { title: 'Look over: the track sheet', run: () => void navigate(`/songs/${song.id}`) },
      { title: 'Notes: the note view', run: () => void navigate(`/songs/${song.id}/notes`) },
      {
        title: 'Lanes: controllers over time',
        run: () => void navigate(`/songs/${song.id}/lanes`),
      },
      { title: 'Event list', run: () => void navigate(`/songs/${song.id}/events`) },
      {
        title: 'Timing: tempos, meters, markers',
        run: () => void navigate(`/songs/${song.id}/timing`),
      },
      {
        title: 'Arrange: the running order, and what to do with bars',
        run: () => void navigate(`/songs/${song.id}/arrange`),
      },
      {
        title: 'Harmony: chords, keys and voicings',
        run: () => void navigate(`/songs/${song.id}/harmony`),
      },
      { title: 'Shelf: clips to take in', run: () => void navigate(`/songs/${song.id}/shelf`) },
      { title: 'Hand off', run: () => void navigate(`/songs/${song.id}/out`) },
      { title: 'History', run: () => void navigate(`/songs/${song.id}/history`) },
      {
        title: converting
          ? 'Put the converter of places away'
          : 'Converter: a place in bars, seconds, timecode, frames, samples',
        run: () => convert(!converting),
      },
      {
        title: 'Download the map as MIDI',
        run: () => location.assign(urlOf('getMap', { id: song.id })),
      },
      {
        title: 'Download the original',
        run: () => location.assign(urlOf('getOriginal', { id: song.id })),
      },
    ],
    [song.id, song.undo, song.redo, undo, redo, navigate, converting, convert],
  );
  useOffer('song', commands);
}
