import { useMutation, useQuery } from '@tanstack/react-query';
import type { NamedSource } from '#core/operations/sources.ts';
import { addressOf, urlOf } from '#contracts/addresses.ts';
import type { OriginalView } from '#contracts/songs.ts';
import type { Answer } from '#contracts/routes.ts';
import { call, problemFrom } from './client.ts';
import { showProblem } from './queries.ts';

/** Keeps files for steps to take from, without songs being made of them: those that could be read, and which could not. */
export async function sendOriginals(files: readonly File[]): Promise<Answer<'addOriginals'>> {
  const body = new FormData();
  for (const file of files) body.append('file', file);
  const { method } = addressOf('addOriginals');
  let response: Response;
  try {
    response = await fetch(urlOf('addOriginals', {}), { method, body });
  } catch {
    throw problemFrom(0, '');
  }
  const text = await response.text();
  if (!response.ok) throw problemFrom(response.status, text);
  return JSON.parse(text) as Answer<'addOriginals'>;
}

export const useSendOriginal = () =>
  useMutation({
    mutationFn: async (file: File): Promise<OriginalView> =>
      (await sendOriginals([file])).originals[0]!,
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
