import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { addressOf, urlOf } from '#contracts/addresses.ts';
import type { ApiError } from '#contracts/errors.ts';
import type { HandoffPreview, HandoffProgress, HandoffView } from '#contracts/handoffs.ts';
import type { HandoffAsked } from '#core/handoff/settings.ts';
import { call, problemFrom, RequestFailed } from './client.ts';
import { keys, showProblem } from './queries.ts';
import { count } from '../components/text.ts';
import { say } from '../messages/messages.ts';

export const useHandoffs = (id: string) =>
  useQuery({
    queryKey: keys.handoffs(id),
    queryFn: async () => (await call('listHandoffs', { params: { id } })).handoffs,
  });

async function post(
  id: string,
  body: object,
  accept: string,
  signal: AbortSignal,
): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(urlOf('handOff', { id }), {
      method: addressOf('handOff').method,
      headers: { 'content-type': 'application/json', accept },
      body: JSON.stringify(body),
      signal,
    });
  } catch (error) {
    if (signal.aborted) throw error;
    throw problemFrom(0, '');
  }
  if (!response.ok) throw problemFrom(response.status, await response.text());
  return response;
}

/** A preview as the server answers it. */
export async function previewed(
  id: string,
  body: object,
  signal: AbortSignal,
): Promise<HandoffPreview> {
  const response = await post(id, body, 'application/json', signal);
  return (await response.json()) as HandoffPreview;
}

/**
 * Which files there would be; what was known stays while the next is worked out, and what is no longer
 * asked for is stopped.
 */
export const usePreview = (id: string, revision: number, asked: HandoffAsked) =>
  useQuery({
    queryKey: ['song', id, 'out', revision, asked],
    queryFn: ({ signal }) =>
      previewed(id, { ...asked, revision, preview: true, forecast: false }, signal),
    placeholderData: keepPreviousData,
    retry: false,
    // The song may have what it lacked by then.
    gcTime: 60_000,
  });

/** How far files that are being made are. */
export interface Progress {
  readonly made: number;
  readonly of: number;
}

async function made(
  id: string,
  body: object,
  signal: AbortSignal,
  progress: (now: Progress) => void,
): Promise<HandoffView> {
  const response = await post(id, body, 'application/x-ndjson, application/json;q=0.5', signal);
  let rest = '';
  let last: HandoffProgress | undefined;
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  for (;;) {
    const { done, value } = await reader.read().catch((error: unknown) => {
      // Stopped by hand, or the server went away in the middle of it.
      throw signal.aborted ? error : problemFrom(0, '');
    });
    const lines = (rest + (value ?? '')).split('\n');
    rest = done ? '' : lines.pop()!;
    for (const line of lines.filter(Boolean)) {
      last = JSON.parse(line) as HandoffProgress;
      if ('made' in last) progress(last);
    }
    if (done) break;
  }
  if (last && 'handoff' in last) return last.handoff;
  if (last && 'error' in last) {
    const { status, ...problem } = last.error as unknown as ApiError & { status: number };
    throw new RequestFailed(status, problem);
  }
  throw problemFrom(0, '');
}

/** Makes the files, tells how far it is, and can be stopped: then nothing of them is kept. */
export function useMakeHandoff(id: string, revision: number) {
  const client = useQueryClient();
  const [progress, setProgress] = useState<Progress>();
  const stop = useRef<AbortController>(undefined);
  const make = useMutation({
    mutationFn: (asked: HandoffAsked & { readonly receiver?: string }) => {
      stop.current = new AbortController();
      return made(id, { ...asked, revision }, stop.current.signal, setProgress);
    },
    onSuccess: async ({ files, slip, receiver }) => {
      say(`Made ${files.length === 1 ? slip.file : count(files.length, 'file')}`, {
        about: 'handoff',
        description: receiver && `For ${receiver.name}.`,
      });
      await client.invalidateQueries({ queryKey: keys.handoffs(id) });
    },
    onError: (error) => {
      if (!stop.current?.signal.aborted) showProblem(error);
    },
    onSettled: () => setProgress(undefined),
  });
  return { make, progress, stop: () => stop.current?.abort() };
}

/** Links to a handoff. */
export const useLinks = (handoff: string) =>
  useQuery({
    queryKey: ['links', handoff],
    queryFn: async () => (await call('listLinks', { params: { id: handoff } })).links,
  });

/** Makes a link, whose address is told once. */
export function useAddLink(handoff: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (days: number) => call('addLink', { params: { id: handoff }, body: { days } }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['links', handoff] }),
    onError: showProblem,
  });
}

export function useRevokeLink(handoff: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (link: string) => call('revokeLink', { params: { id: handoff, link } }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['links', handoff] }),
    onError: showProblem,
  });
}
