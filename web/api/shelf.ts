import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { ClipQuery, ClipsAdded, ClipView } from '#contracts/shelf.ts';
import { count } from '../components/text.ts';
import { call } from './client.ts';
import { showProblem } from './queries.ts';
import { inParts, sendFiles } from './upload.ts';
import { say } from '../messages/messages.ts';

const key = ['shelf'];
const pageSize = 500;

/** How the shelf is narrowed and sorted. */
export type ClipsAsked = Partial<Omit<ClipQuery, 'from' | 'limit'>>;

/** The clips by pages, as they are scrolled to. */
export const useClipPages = (asked: ClipsAsked) =>
  useInfiniteQuery({
    queryKey: [...key, 'clips', asked],
    queryFn: ({ pageParam }) =>
      call('listClips', { query: { ...asked, from: pageParam, limit: pageSize } as never }),
    initialPageParam: 0,
    getNextPageParam: (last, pages) =>
      pages.length * pageSize < last.total ? pages.length * pageSize : undefined,
    placeholderData: (before) => before,
  });

/** Some clips, by words in their names. */
export const useFoundClips = (search: string, limit: number) =>
  useQuery({
    queryKey: [...key, 'found', search, limit],
    queryFn: () => call('listClips', { query: { search, limit } as never }),
    placeholderData: (before) => before,
  });

export const useFolders = () =>
  useQuery({ queryKey: [...key, 'folders'], queryFn: () => call('listFolders') });

function useAgain(): () => Promise<void> {
  const client = useQueryClient();
  return () => client.invalidateQueries({ queryKey: key });
}

/** Puts files on the shelf, as many as there are: in parts, told how far they are; what failed is said once. */
export function useAddClips(progress: (part: number) => void) {
  const again = useAgain();
  return useMutation({
    mutationFn: async ({
      files,
      folder,
    }: {
      files: readonly File[];
      folder: string;
    }): Promise<ClipsAdded> => {
      const all = {
        clips: [] as ClipView[],
        twins: 0,
        problems: [] as ClipsAdded['problems'][number][],
      };
      const parts = inParts(files);
      for (const [n, part] of parts.entries()) {
        const added = await sendFiles('addClips', part, {
          query: { folder },
          progress: (of) => progress((n + of) / parts.length),
        });
        all.clips.push(...added.clips);
        all.twins += added.twins;
        all.problems.push(...added.problems);
      }
      return all;
    },
    onSettled: again,
    onSuccess: ({ clips, twins, problems }) => {
      say(`Put ${count(clips.length, 'clip')} on the shelf`, {
        description: [
          ...(twins > 0 ? [`${twins} lay there already.`] : []),
          ...(problems.length > 0
            ? [
                `${count(problems.length, 'file')} could not be read: ${problems
                  .slice(0, 3)
                  .map((p) => p.where.file ?? p.message)
                  .join(', ')}${problems.length > 3 ? ' and others' : ''}.`,
              ]
            : []),
        ].join(' '),
      });
    },
    onError: showProblem,
  });
}

export function useCutClip() {
  const again = useAgain();
  return useMutation({
    mutationFn: (body: Parameters<typeof call<'cutClip'>>[1]['body']) => call('cutClip', { body }),
    onSuccess: async ({ name, folder }) => {
      await again();
      say(`Put “${name}” on the shelf`, {
        description: folder === '' ? undefined : `In ${folder}.`,
      });
    },
    onError: showProblem,
  });
}

export function useChangeClip() {
  const again = useAgain();
  return useMutation({
    mutationFn: ({
      id,
      ...body
    }: { id: string } & Parameters<typeof call<'changeClip'>>[1]['body']) =>
      call('changeClip', { params: { id }, body }),
    onSettled: again,
    onError: showProblem,
  });
}

export function useRemoveClip() {
  const again = useAgain();
  return useMutation({
    mutationFn: ({ id }: ClipView) => call('removeClip', { params: { id } }),
    onSuccess: async (_, { id, name }) => {
      await again();
      say(`Took “${name}” from the shelf`, {
        description: 'Songs that took it in keep what they took.',
        way: {
          label: 'Put back',
          onClick: () => void call('restoreClip', { params: { id } }).then(again, showProblem),
        },
      });
    },
    onError: showProblem,
  });
}

export function useMoveFolder() {
  const again = useAgain();
  return useMutation({
    mutationFn: (body: { from: string; to: string }) => call('moveFolder', { body }),
    onSettled: again,
    onError: showProblem,
  });
}
