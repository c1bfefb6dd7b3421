import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import type { ApiError } from '#contracts/errors.ts';
import type { OriginalView } from '#contracts/songs.ts';
import { problemOf } from '../api/client.ts';
import { intakeOf } from '../api/originals.ts';
import { keepFiles } from '../api/upload.ts';
import { wayOutForFiles } from '../api/ways-out.ts';
import { songQuery, useStep } from '../api/queries.ts';
import { useShelf } from '../state/shelf.ts';
import { useScope } from '../state/scope.ts';
import { useIntake } from '../state/intake.ts';
import { filesIn } from './dropped-files.ts';
import { count } from './text.ts';
import { say, sayBusy, sayWrong } from '../messages/messages.ts';

/** Takes files in from anywhere, and goes to where they can be seen: one file to its intake, several to the list. */
export function useTakeFiles(): (files: readonly File[]) => Promise<void> {
  const client = useQueryClient();
  const navigate = useNavigate();
  const take = useIntake((s) => s.take);
  return useCallback(
    async (files) => {
      if (files.length === 0) return;
      if (files.length > 1) void navigate('/');
      const arrived = await take(files, client);
      const [only] = arrived;
      if (arrived.length === 1 && only?.state === 'in' && only.songs.length === 1)
        void navigate(`/songs/${only.songs[0]}/in`);
      else void navigate('/');
    },
    [client, navigate, take],
  );
}

/**
 * Sends files to be kept, told how far they are, and to be stopped; what could not be read is told, and others
 * may be chosen for `take`. Undefined where nothing came of it.
 */
async function kept(
  files: readonly File[],
  take: (files: readonly File[]) => void,
): Promise<readonly OriginalView[] | undefined> {
  const toldOf = (problem: ApiError): void => {
    const { where, message, remedy } = problem;
    const refused = files.filter((f) => f.name === where.file);
    sayWrong(where.file ? `${where.file}: ${message}` : message, {
      description: remedy,
      way: wayOutForFiles(problem, refused.length > 0 ? refused : files, take),
    });
  };
  const stop = new AbortController();
  const what = count(files.length, 'file');
  const message = sayBusy(`Reading ${what} …`);
  const progress = (part: number): void =>
    message.tell(`Reading ${what}: ${Math.round(part * 100)} % sent`, {
      label: 'Stop',
      onClick: () => stop.abort(),
    });
  try {
    const { originals, problems } = await keepFiles(files, {
      progress,
      signal: stop.signal,
    });
    for (const problem of problems) toldOf(problem);
    return originals;
  } catch (error) {
    if (!stop.signal.aborted) toldOf(problemOf(error));
    return undefined;
  } finally {
    message.end();
  }
}

/** Keeps files and shows what they hold beside a song, before anything of them is taken. */
export function useShowFiles(): (song: string, files: readonly File[]) => Promise<void> {
  const navigate = useNavigate();
  return useCallback(
    async function show(song, files) {
      if (files.length === 0) return;
      const originals = await kept(files, (others) => void show(song, others));
      if (originals) void navigate(intakeOf(song, originals));
    },
    [navigate],
  );
}

/** Lays files onto a track of the open song without asking: what came of it is told, with undo. */
function useLayOnRow(id = ''): (track: string, files: readonly File[]) => Promise<void> {
  const song = useQuery({ ...songQuery(id), enabled: id !== '' }).data;
  const { mutate } = useStep(id, song?.revision ?? 0);
  return useCallback(
    async function lay(track, files) {
      if (!song || files.length === 0) return;
      const originals = await kept(files, (others) => void lay(track, others));
      if (!originals) return;
      const { laidOnRow } = await import('../intake/on-a-row.ts');
      const asked = laidOnRow(song, track, originals, useScope.getState().bars?.from);
      if (asked) mutate(asked);
      else say('These files hold nothing to lay there.');
    },
    [song, mutate],
  );
}

/** The song whose frame is open. */
const openSong = (path: string): string | undefined => /^\/songs\/([^/]+)/.exec(path)?.[1];

const holdsFiles = (event: DragEvent): boolean =>
  event.dataTransfer?.types.includes('Files') ?? false;

/**
 * Files dropped or pasted on an open song are shown beside it, on the shelf they become clips; anywhere
 * else each becomes a song.
 */
export function DropAnywhere() {
  const song = openSong(useLocation().pathname);
  const shelf = useShelf((s) => s.taking);
  const becomeSongs = useTakeFiles();
  const showFiles = useShowFiles();
  const lay = useLayOnRow(song);
  const take = useCallback(
    (files: readonly File[], row?: string): void => {
      if (shelf) shelf(files);
      else if (!song) void becomeSongs(files);
      else void (row ? lay(row, files) : showFiles(song, files));
    },
    [shelf, song, showFiles, becomeSongs, lay],
  );
  const over = useDroppedFiles(take);
  if (!over) return null;
  return (
    <div className="pointer-events-none fixed inset-3 z-50 grid place-items-center rounded-xl border-2 border-dashed border-amber bg-paper/85">
      <p className="text-xl font-semibold">
        {shelf
          ? 'Let go to put them on the shelf'
          : song
            ? 'Let go to see what they hold'
            : 'Let go to bring the files in'}
      </p>
    </div>
  );
}

/** Whether files are held over the page; those that are let go, or pasted, are taken, with Shift onto a row. */
function useDroppedFiles(take: (files: readonly File[], row?: string) => void): boolean {
  const [over, setOver] = useState(false);
  useEffect(() => {
    let depth = 0;
    const enter = (e: DragEvent): void => {
      if (holdsFiles(e)) setOver(++depth > 0);
    };
    const leave = (e: DragEvent): void => {
      if (holdsFiles(e)) setOver((depth = Math.max(0, depth - 1)) > 0);
    };
    const hover = (e: DragEvent): void => {
      if (holdsFiles(e)) e.preventDefault();
    };
    const drop = (e: DragEvent): void => {
      if (!holdsFiles(e)) return;
      e.preventDefault();
      depth = 0;
      setOver(false);
      const row = e.shiftKey && e.target instanceof Element && e.target.closest('tr[data-track]');
      const track = (row && row.getAttribute('data-track')) || undefined;
      if (e.dataTransfer) void filesIn(e.dataTransfer).then((files) => take(files, track));
    };
    const paste = (e: ClipboardEvent): void => {
      const files = [...(e.clipboardData?.files ?? [])];
      if (files.length === 0) return;
      e.preventDefault();
      take(files);
    };
    const listeners = { dragenter: enter, dragleave: leave, dragover: hover, drop } as const;
    for (const [name, listener] of Object.entries(listeners))
      addEventListener(name as 'drop', listener);
    addEventListener('paste', paste);
    return () => {
      removeEventListener('paste', paste);
      for (const [name, listener] of Object.entries(listeners))
        removeEventListener(name as 'drop', listener);
    };
  }, [take]);
  return over;
}
