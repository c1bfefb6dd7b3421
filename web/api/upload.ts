import { addressOf, urlOf } from '#contracts/addresses.ts';
import type { Answer } from '#contracts/routes.ts';
import type { ApiError } from '#contracts/errors.ts';
import type { OriginalView, Uploaded } from '#contracts/songs.ts';
import { problemFrom, problemOf } from './client.ts';

/** Told how much of the files has gone (0–1); a signal stops them on their way. */
interface OnTheWay {
  readonly query?: object;
  readonly progress?: (part: number) => void;
  readonly signal?: AbortSignal;
}

/** A file of a folder that was chosen goes onto the shelf with its folders. */
const pathOf = (file: File): string => file.webkitRelativePath || file.name;

/** Sends files with a request that takes them. fetch() cannot say yet how much has gone. */
export function sendFiles<N extends 'bringIn' | 'addOriginals' | 'addBank' | 'addClips'>(
  name: N,
  files: readonly File[],
  { progress, signal, query }: OnTheWay = {},
): Promise<Answer<N>> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const form = new FormData();
    for (const file of files)
      form.append('file', file, name === 'addClips' ? pathOf(file) : file.name);
    request.upload.onprogress = (e) => e.lengthComputable && progress?.(e.loaded / e.total);
    request.onload = () =>
      request.status === 201
        ? resolve(JSON.parse(request.responseText) as Answer<N>)
        : reject(problemFrom(request.status, request.responseText));
    request.onerror = () => reject(problemFrom(0, ''));
    request.onabort = () => reject(new DOMException('Stopped', 'AbortError'));
    signal?.addEventListener('abort', () => request.abort());
    request.open(addressOf(name).method, urlOf(name, {} as never, query));
    request.send(form);
  });
}

/** Of one request: files, and bytes beyond which the next file waits for another. */
const mostFiles = 40;
const mostBytes = 24_000_000;

/** Files by the requests that they go in, one after another. */
export function inParts<F extends Pick<File, 'size'>>(files: readonly F[]): F[][] {
  const parts: F[][] = [];
  let bytes = 0;
  for (const file of files) {
    const last = parts.at(-1);
    if (last && last.length < mostFiles && bytes + file.size <= mostBytes) last.push(file);
    else {
      parts.push([file]);
      bytes = 0;
    }
    bytes += file.size;
  }
  return parts;
}

/** Has files kept, in parts; a part that is refused keeps no other from going. Fails where nothing was kept. */
export async function keepFiles(
  files: readonly File[],
  { progress, signal }: OnTheWay = {},
): Promise<Answer<'addOriginals'>> {
  const all = files.reduce((sum, { size }) => sum + size, 0) || 1;
  const originals: OriginalView[] = [];
  const problems: ApiError[] = [];
  let [sent, failed] = [0, undefined as unknown];
  for (const part of inParts(files)) {
    const size = part.reduce((sum, file) => sum + file.size, 0);
    try {
      const answer = await sendFiles('addOriginals', part, {
        progress: (of) => progress?.((sent + of * size) / all),
        ...(signal ? { signal } : {}),
      });
      originals.push(...answer.originals);
      problems.push(...answer.problems);
    } catch (error) {
      if (signal?.aborted) throw error;
      failed ??= error;
      problems.push(problemOf(error));
    }
    sent += size;
  }
  if (originals.length === 0 && failed) throw failed;
  return { originals, problems };
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
