import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { wrap } from 'comlink';
import type { SongView } from '#contracts/songs.ts';
import type { ListRead, PlainPlaces } from '#core/lists/list-read.ts';
import type { ListFile } from '#core/lists/lists.ts';
import type { Maps } from '#core/song/maps.ts';
import type { ListReader } from '../desk/list.worker.ts';

/** Reads a list in a worker of its own, which ends when it is read or when nobody waits for it. */
async function readBeside(
  signal: AbortSignal,
  ...asked: Parameters<ListReader>
): Promise<ListRead> {
  const worker = new Worker(new URL('../desk/list.worker.ts', import.meta.url), { type: 'module' });
  const end = (): void => worker.terminate();
  signal.addEventListener('abort', end);
  try {
    return await wrap<ListReader>(worker)(...asked);
  } finally {
    signal.removeEventListener('abort', end);
    end();
  }
}

/** How a list is read. */
interface ListWays {
  /** In place of what the song has. */
  readonly instead?: boolean;
  /** What its plain numbers are. */
  readonly plain?: PlainPlaces | undefined;
}

/**
 * What a list gives a song: undefined until it is first read, and what it gave before while it is read in
 * another way. `id`: of the file, among all that are open.
 */
export function useListRead(
  song: SongView,
  { id, file, maps }: { readonly id: string; readonly file: ListFile; readonly maps: Maps },
  { instead = false, plain }: ListWays = {},
): { readonly read: ListRead | undefined; readonly isReading: boolean } {
  const { timing, division } = song;
  const { data, isPlaceholderData } = useQuery({
    queryKey: ['list', id, song.id, song.revision, maps.tempos.length, instead, plain],
    queryFn: ({ signal }) => readBeside(signal, file, { timing, division }, maps, instead, plain),
    placeholderData: keepPreviousData,
    gcTime: 0,
    staleTime: Infinity,
  });
  return { read: data, isReading: isPlaceholderData || data === undefined };
}
