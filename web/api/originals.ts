import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { NamedSource } from '#core/operations/sources.ts';
import type { OriginalView } from '#contracts/songs.ts';
import { call } from './client.ts';
import { sendFiles } from './upload.ts';
import { showProblem } from './queries.ts';

/** Keeps a file for a step to take from, without a song being made of it. */
export const useSendOriginal = () =>
  useMutation({
    mutationFn: async (file: File): Promise<OriginalView> =>
      (await sendFiles('addOriginals', [file])).originals[0]!,
    onError: showProblem,
  });

/** What a file holds; it never changes. */
export const contentsQuery = (sha256: string) => ({
  queryKey: ['original', sha256],
  queryFn: () => call('getContents', { params: { sha256 } }),
  staleTime: Infinity,
  retry: false,
});
export const useContents = (sha256: string) => useQuery(contentsQuery(sha256));

/** Where a file is from, as somebody typed it. */
export const useFileSource = (sha256: string) =>
  useQuery({
    queryKey: ['file source', sha256],
    queryFn: () => call('getFileSource', { params: { sha256 } }),
    retry: false,
  });

export function useSetFileSource(sha256: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (source: string) => call('setFileSource', { params: { sha256 }, body: { source } }),
    onSuccess: (said) => queries.setQueryData(['file source', sha256], said),
    onError: showProblem,
  });
}

/** The address of an intake of files that were kept: each of their songs by itself. */
export function intakeOf(song: string, originals: readonly OriginalView[]): string {
  const query = new URLSearchParams();
  for (const { sha256, fileName, parts } of originals)
    for (const { part, title } of parts) {
      query.append('from', `file:${sha256}:${part}`);
      query.append('name', parts.length > 1 ? title : (fileName ?? title));
    }
  return `/songs/${song}/in?${query.toString()}`;
}

/** The address of an intake of one source. */
export function intakeFrom(song: string, source: NamedSource): string {
  const from =
    'original' in source
      ? `file:${source.original}:${source.part}`
      : `song:${source.song}:${source.revision}`;
  return `/songs/${song}/in?${new URLSearchParams({ from, name: source.called ?? '' }).toString()}`;
}
