import { useMutation, useQuery } from '@tanstack/react-query';
import { addressOf, urlOf } from '#contracts/addresses.ts';
import type { OriginalView } from '#contracts/songs.ts';
import type { Answer } from '#contracts/routes.ts';
import { call, problemFrom } from './client.ts';
import { showProblem } from './queries.ts';

/** Keeps a file for a step to take from, without a song being made of it. */
async function sendOriginal(file: File): Promise<OriginalView> {
  const body = new FormData();
  body.append('file', file);
  const { method } = addressOf('addOriginals');
  const response = await fetch(urlOf('addOriginals', {}), { method, body });
  const text = await response.text();
  if (!response.ok) throw problemFrom(response.status, text);
  return (JSON.parse(text) as Answer<'addOriginals'>).originals[0]!;
}

export const useSendOriginal = () =>
  useMutation({ mutationFn: sendOriginal, onError: showProblem });

/** What a file holds; it never changes. */
export const useContents = (sha256: string) =>
  useQuery({
    queryKey: ['original', sha256],
    queryFn: () => call('getContents', { params: { sha256 } }),
    staleTime: Infinity,
    retry: false,
  });
