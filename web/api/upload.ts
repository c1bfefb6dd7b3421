import { urlOf } from '#contracts/addresses.ts';
import type { Uploaded } from '#contracts/songs.ts';
import { problemFrom } from './client.ts';

/** Sends one file, telling how much of it has gone (0–1). fetch() cannot say that yet. */
export function sendFile(file: File, progress: (part: number) => void): Promise<Uploaded> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const form = new FormData();
    form.append('file', file);
    request.upload.onprogress = (e) => e.lengthComputable && progress(e.loaded / e.total);
    request.onload = () =>
      request.status === 201
        ? resolve(JSON.parse(request.responseText) as Uploaded)
        : reject(problemFrom(request.status, request.responseText));
    request.onerror = () => reject(problemFrom(0, ''));
    request.open('POST', urlOf('bringIn', {}));
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
