import {
  useInfiniteQuery,
  useIsMutating,
  useMutation,
  useQuery,
  useQueryClient,
  type QueryClient,
} from '@tanstack/react-query';
import type { SongListQuery, SongRow, SongView } from '#contracts/songs.ts';
import type { MovedView } from '#contracts/steps.ts';
import type { NamedRows } from '#core/song/rows.ts';
import { followMoves } from '../state/follow.ts';
import { longDate } from '../components/text.ts';
import { wayOut } from './ways-out.ts';
import { call, problemOf } from './client.ts';
import { say, sayWrong } from '../messages/messages.ts';

/** What the page knows from the server; a song's key changes nothing but what belongs to it. */
export const keys = {
  songs: (asked: SongsAsked) => ['songs', asked] as const,
  song: (id: string) => ['song', id] as const,
  steps: (id: string) => ['song', id, 'steps'] as const,
  handoffs: (id: string) => ['song', id, 'handoffs'] as const,
};

/** Which songs are asked for. */
export interface SongsAsked {
  readonly removed?: boolean;
  readonly search?: string;
  readonly sort?: SongListQuery['sort'];
}

const pageSize = 100;

const songsQuery = ({ removed, search, sort }: SongsAsked, from: number, limit: number) => ({
  from,
  limit,
  removed: removed ? ('true' as const) : undefined,
  search: search || undefined,
  sort,
});

/** The songs by pages, as they are scrolled to. */
export const useSongPages = (asked: SongsAsked) =>
  useInfiniteQuery({
    queryKey: keys.songs(asked),
    queryFn: ({ pageParam }) =>
      call('listSongs', { query: songsQuery(asked, pageParam, pageSize) }),
    initialPageParam: 0,
    getNextPageParam: (last, pages) =>
      pages.length * pageSize < last.total ? pages.length * pageSize : undefined,
    placeholderData: (before) => before,
  });

/** The first songs that a search finds, and how many it finds in all. */
export const useSongs = (search = '', limit = 200) =>
  useQuery({
    queryKey: [...keys.songs({ search, sort: 'touched' }), limit],
    queryFn: () => call('listSongs', { query: songsQuery({ search, sort: 'touched' }, 0, limit) }),
    placeholderData: (before) => before,
  });

export const songQuery = (id: string) => ({
  queryKey: keys.song(id),
  queryFn: () => call('getSong', { params: { id } }),
  retry: false,
});
export const useSong = (id: string) => useQuery(songQuery(id));

export const useSteps = (id: string) =>
  useQuery({ queryKey: keys.steps(id), queryFn: () => call('listSteps', { params: { id } }) });

/** What can be done to a song. It changes with the program only. */
export const useOperations = () =>
  useQuery({
    queryKey: ['operations'],
    queryFn: async () => (await call('listOperations')).operations,
    staleTime: Infinity,
  });

export const useFindings = (id: string, revision: number, wanted = true) =>
  useQuery({
    enabled: wanted,
    queryKey: ['song', id, 'findings', revision],
    queryFn: ({ signal }) => call('listFindings', { params: { id }, signal }),
    placeholderData: (before) => before,
  });

/** Leaves a finding alone, or takes it up again. */
export function useLeave(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { key: string; leftAlone: boolean }) =>
      call('leaveFinding', { params: { id }, body }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['song', id, 'findings'] }),
    onError: showProblem,
  });
}

/** A step as the page asks for it. */
export interface StepAsked {
  /** On which it is meant; else on the one the page shows. */
  readonly revision?: number;
  readonly operation: string;
  readonly settings?: Record<string, unknown>;
  readonly scope?: {
    tracks: 'all' | string[];
    bars?: { from: number; to: number } | undefined;
    /** Events that were chosen by hand, in a revision. */
    rows?: NamedRows | undefined;
    revision?: number | undefined;
  };
}

/** Says what went wrong, what to do, and offers to do it; `again` asks for the same once more. */
export function sayProblem(error: unknown, again?: () => void): void {
  const problem = problemOf(error);
  sayWrong(problem.message, {
    description: problem.remedy,
    way: wayOut(problem, again),
    about: `problem ${problem.code}`,
  });
}
export const showProblem = (error: unknown): void => sayProblem(error);

/**
 * Looks the song and the list up again; waits for the song, so that what follows sees it, and what points
 * at its places goes along.
 */
function useRefresh(id: string) {
  const client = useQueryClient();
  return async (moved?: Pick<MovedView, 'moves'>): Promise<void> => {
    const before = client.getQueryData<SongView>(keys.song(id));
    void client.invalidateQueries({ queryKey: ['songs'] });
    await client.invalidateQueries({ queryKey: keys.song(id) });
    const after = client.getQueryData<SongView>(keys.song(id));
    if (moved && before && after) followMoves(before, after, moved.moves);
  };
}

/** The message about what was last done to a song: a new one takes its place. */
const aboutSteps = (id: string): string => `steps of ${id}`;

const stepKey = (id: string) => ['step', id] as const;

/** Whether a step of a song is on its way at this very moment: `isPending` is told a moment later. */
export function useStepping(id: string): () => boolean {
  const client = useQueryClient();
  return () => client.isMutating({ mutationKey: stepKey(id) }) > 0;
}

/** The same, drawn anew when it changes. */
export const useIsStepping = (id: string): boolean =>
  useIsMutating({ mutationKey: stepKey(id) }) > 0;

/** The step that was to be undone came to nothing, and said so itself. */
class NotTaken extends Error {}

/**
 * Waits for steps of a song that are on their way: what is undone is the last thing that was asked for. Where
 * that fails nothing is, least of all the step before it.
 */
async function stepsTaken(client: QueryClient, id: string): Promise<void> {
  const cache = client.getMutationCache();
  const steps = cache.findAll({ mutationKey: stepKey(id), status: 'pending' });
  const pending = (): boolean => steps.some(({ state }) => state.status === 'pending');
  if (pending())
    await new Promise<void>((resolve) => {
      const leave = cache.subscribe(() => {
        if (pending()) return;
        leave();
        resolve();
      });
    });
  if (steps.some(({ state }) => state.status === 'error')) throw new NotTaken();
}

/** Takes a step on the revision the page shows, tells what was done, and offers to undo it. */
export function useStep(id: string, revision: number) {
  const refresh = useRefresh(id);
  const undo = useUndo(id);
  const step = useMutation({
    mutationKey: stepKey(id),
    mutationFn: (asked: StepAsked) =>
      call('takeStep', { params: { id }, body: { revision, ...asked } }),
    onSuccess: async (result) => {
      await refresh(result);
      // One message at a time offers to undo, the one about the latest step, and it undoes no other.
      if (result.changed)
        say([result.described, ...(result.report.told ?? [])].join('. '), {
          about: aboutSteps(id),
          way: { label: 'Undo', onClick: () => undo.mutate(result.revision) },
        });
      else say(result.report.skipped[0]?.why ?? 'Nothing to change.');
    },
    onError: async (error, asked) => {
      // Rows were chosen in the song as it was: they mean others in the one that overtook it.
      sayProblem(error, asked.scope?.rows ? undefined : () => step.mutate(asked));
      await refresh();
    },
  });
  return step;
}

function useMove(id: string, way: 'undo' | 'redo', done: string) {
  const client = useQueryClient();
  const refresh = useRefresh(id);
  return useMutation({
    mutationFn: async (revision: number | void) => {
      if (revision === undefined) await stepsTaken(client, id);
      return call(way, { params: { id }, body: revision === undefined ? {} : { revision } });
    },
    onSuccess: async (moved) => {
      await refresh(moved);
      say(`${done}: ${moved.described}`, { about: aboutSteps(id) });
    },
    onError: (error) => {
      if (!(error instanceof NotTaken)) showProblem(error);
    },
  });
}

export const useUndo = (id: string) => useMove(id, 'undo', 'Undone');
export const useRedo = (id: string) => useMove(id, 'redo', 'Redone');

/** Goes to any revision of the history at once. */
export function useGoTo({ id, revision }: Pick<SongView, 'id' | 'revision'>) {
  const refresh = useRefresh(id);
  return useMutation({
    mutationFn: (to: number) => call('goTo', { params: { id }, body: { to, revision } }),
    onSuccess: async (moved) => {
      await refresh(moved);
      say(`The song is as of: ${moved.described}`, { about: aboutSteps(id) });
    },
    onError: async (error) => {
      showProblem(error);
      await refresh();
    },
  });
}

/** Where a step changed something: true for ever. */
export const stepBarsQuery = (id: string, revision: number) => ({
  queryKey: ['step-bars', id, revision],
  queryFn: () => call('getStepBars', { params: { id, revision: String(revision) } }),
  staleTime: Infinity,
  gcTime: 600_000,
});

export function useRemoveSong() {
  const client = useQueryClient();
  const restore = useRestoreSong();
  return useMutation({
    mutationFn: (song: SongRow) => call('removeSong', { params: { id: song.id } }),
    onSuccess: async ({ purgeAt }, song) => {
      await client.invalidateQueries({ queryKey: ['songs'] });
      say(`Removed ${song.title}`, {
        description: purgeAt
          ? `It can be brought back until ${longDate(purgeAt)}; then it is purged with its history and handoffs.`
          : 'It is kept, and can be brought back.',
        way: { label: 'Bring back', onClick: () => restore.mutate(song) },
      });
    },
    onError: showProblem,
  });
}

/** Puts tags to a song, in place of those it has. */
export function useTagSong(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (tags: string[]) => call('tagSong', { params: { id }, body: { tags } }),
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: ['songs'] }),
        client.invalidateQueries({ queryKey: keys.song(id), exact: true }),
      ]),
    onError: showProblem,
  });
}

export function useRestoreSong() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (song: SongRow) => call('restoreSong', { params: { id: song.id } }),
    onSuccess: async (_, song) => {
      await client.invalidateQueries({ queryKey: ['songs'] });
      say(`${song.title} is back`);
    },
    onError: showProblem,
  });
}
