import { urlOf } from '#contracts/addresses.ts';
import { problemFrom } from '../api/client.ts';

/** The bytes of a sound bank by its hash, or of the one that comes along; says how much has come while it does. */
export async function fetchBank(
  bank: string | undefined,
  progress: (part: number) => void,
): Promise<ArrayBuffer> {
  const response = await fetch(bank ? urlOf('getBank', { sha256: bank }) : urlOf('getSounds', {}));
  if (!response.ok) throw problemFrom(response.status, await response.text());
  const length = Number(response.headers.get('content-length') ?? 0);
  if (!response.body || length === 0) return response.arrayBuffer();
  progress(0);
  const bytes = new Uint8Array(length);
  let at = 0;
  const reader = response.body.getReader();
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    // A proxy that packs what it passes on says another length.
    if (at + value.length > length) return rest(bytes.subarray(0, at), value, reader);
    bytes.set(value, at);
    at += value.length;
    progress(at / length);
  }
  return bytes.buffer.slice(0, at);
}

async function rest(
  before: Uint8Array,
  now: Uint8Array,
  reader: ReadableStreamDefaultReader<Uint8Array>,
): Promise<ArrayBuffer> {
  const parts = [before, now];
  for (let read = await reader.read(); !read.done; read = await reader.read())
    parts.push(read.value);
  return new Blob(parts as BlobPart[]).arrayBuffer();
}
