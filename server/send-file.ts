import type { Response } from 'express';

/**
 * Sends a file to be saved under its name: a MIDI file that never changes, if nothing else is said; `now`
 * for one as it is at the moment.
 */
export function sendFile(
  response: Response,
  name: string,
  bytes: Uint8Array,
  {
    kept = 'for ever',
    type = 'audio/midi',
  }: { readonly kept?: 'for ever' | 'now'; readonly type?: string } = {},
): 'file' {
  response.attachment(name);
  response.type(type);
  response.setHeader(
    'Cache-Control',
    kept === 'now' ? 'no-store' : 'private, max-age=31536000, immutable',
  );
  response.send(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength));
  return 'file';
}
