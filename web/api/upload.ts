import { addressOf, urlOf } from '#contracts/addresses.ts';
import type { Answer } from '#contracts/routes.ts';
import type { Uploaded } from '#contracts/songs.ts';
import { problemFrom } from './client.ts';

/** Told how much of the files has gone (0–1); a signal stops them on their way. */
interface OnTheWay {
  readonly progress?: (part: number) => void;
  readonly signal?: AbortSignal;
}

/** Sends files with a request that takes them. fetch() cannot say yet how much has gone. */
export function sendFiles<N extends 'bringIn' | 'addOriginals'>(
  name: N,
  files: readonly File[],
  { progress, signal }: OnTheWay = {},
): Promise<Answer<N>> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const form = new FormData();
    for (const file of files) form.append('file', file);
    request.upload.onprogress = (e) => e.lengthComputable && progress?.(e.loaded / e.total);
    request.onload = () =>
      request.status === 201
        ? resolve(JSON.parse(request.responseText) as Answer<N>)
        : reject(problemFrom(request.status, request.responseText));
    request.onerror = () => reject(problemFrom(0, ''));
    request.onabort = () => reject(new DOMException('Stopped', 'AbortError'));
    signal?.addEventListener('abort', () => request.abort());
    request.open(addressOf(name).method, urlOf(name, {} as never));
    request.send(form);
  });
}

/** Begins a song with nothing but what is said of its time; gives its id. */
export async function beginSong(begin: object): Promise<string> {
  const response = await fetch(urlOf('bringIn', {}), {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(begin),
  }).catch(() => {
    throw problemFrom(0, '');
  });
  const text = await response.text();
  if (!response.ok) throw problemFrom(response.status, text);
  return (JSON.parse(text) as Uploaded).songs[0]!.id;
}
