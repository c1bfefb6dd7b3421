import { keyNow } from '../../keys/shown.ts';
import { Redo2, Ruler, Undo2 } from 'lucide-react';
import { useEffect, useMemo } from 'react';
import { Link, Outlet, useNavigate, useParams } from 'react-router';
import { urlOf } from '#contracts/addresses.ts';
import type { SongView } from '#contracts/songs.ts';
import { problemOf } from '../../api/client.ts';
import { useIsStepping, useRedo, useSong, useStepping, useUndo } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { MessageLine } from '../../messages/message-line.tsx';
import { StageLine, useStageUse } from '../../messages/stage-line.tsx';
import { PageTools } from '../../components/page-tools.tsx';
import { PageProblem } from '../../components/problem-note.tsx';
import { useOffer } from '../../state/commands.ts';
import { useScope } from '../../state/scope.ts';
import { BarStrip } from './bar-strip.tsx';
import { commandOf } from '../../keys/pressed.ts';
import { isTyping } from '../../components/is-typing.ts';
import { MarkedBar } from './marked-bar.tsx';
import { ListenButton } from './listen-button.tsx';
import { Grip } from '../../components/grip.tsx';
import { outgoing } from '../../handoff/drag-out.ts';
import { SongTitle } from './song-title.tsx';
import { Trail } from './trail.tsx';
import { useBarsKey } from '../../step/bars-of-chosen.ts';
import { useConverter } from './use-converter.ts';
import { useViewFocus } from './use-view-focus.ts';
import { useViewKeys, views } from './use-view-keys.ts';
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
  useViewKeys(song.id);
  useViewFocus();
  useStageUse();
  useEffect(() => {
    document.title = `${song.title} · Amber Satchel`;
    return () => void (document.title = 'Amber Satchel');
  }, [song.title]);
  return (
    <div className="grid h-full min-h-0 grid-cols-[58px_minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)_auto] xl:grid-cols-[128px_minmax(0,1fr)]">
      <header className="col-span-2 flex flex-wrap items-center gap-x-3 border-b border-line px-3 py-1.5 md:flex-nowrap">
        <Link to="/" className="flex items-center gap-2" title="All songs" aria-label="All songs">
          <img src="/mark.svg" alt="" width={26} height={26} />
        </Link>
        <SongTitle song={song} />
        <Grip says="The whole song as a file" out={() => outgoing(song.id, song.title, {})} />
        <MessageLine idle={<StageLine />} />
        <div className="ml-auto flex items-center gap-1">
          <ConverterButton />
          <ListenButton song={song} />
          <Button
            kind="quiet"
            disabled={!song.undo || undo.isPending}
            onClick={() => undo.mutate()}
            title={song.undo ? `Undo: ${song.undo} (${keyNow('undo')})` : 'Nothing to undo'}
            aria-label="Undo"
          >
            <Undo2 size={16} aria-hidden />
          </Button>
          <Button
            kind="quiet"
            disabled={!song.redo || redo.isPending}
            onClick={() => redo.mutate()}
            title={song.redo ? `Redo: ${song.redo} (${keyNow('redo')})` : 'Nothing to redo'}
            aria-label="Redo"
          >
            <Redo2 size={16} aria-hidden />
          </Button>
          <PageTools />
        </div>
      </header>
      <Trail song={song} />
      <Outlet context={song} />
      <div>
        <MarkedBar song={song} />
        <BarStrip song={song} />
      </div>
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
  const stepping = useStepping(song.id);
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (isTyping(e.target)) return;
      const command = commandOf(e, 'song');
      if (command !== 'undo' && command !== 'redo') return;
      e.preventDefault();
      if (command === 'undo' && (song.undo || stepping())) undo();
      if (command === 'redo' && song.redo) redo();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [song, undo, redo, stepping]);
}

function useSongCommands(song: SongView, undo: () => void, redo: () => void): void {
  const navigate = useNavigate();
  const [converting, convert] = useConverter();
  const stepping = useIsStepping(song.id);
  // What is on its way is the last thing that was done, and not yet known by its name.
  const undone = stepping ? 'what is being done' : song.undo;
  const commands = useMemo(
    () => [
      ...(undone ? [{ title: `Undo: ${undone}`, key: 'undo' as const, run: undo }] : []),
      ...(song.redo ? [{ title: `Redo: ${song.redo}`, key: 'redo' as const, run: redo }] : []),
      ...views.map(({ key, path, says }) => ({
        title: says,
        key,
        run: () => void navigate(`/songs/${song.id}${path}`),
      })),
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
    [song.id, undone, song.redo, undo, redo, navigate, converting, convert],
  );
  useOffer('song', commands);
}
