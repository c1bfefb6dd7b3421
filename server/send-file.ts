import type { Response } from 'express';

/** Sends a MIDI file to be saved under its name: one that never changes, or one as it is `now`. */
export function sendFile(
  response: Response,
  name: string,
  bytes: Uint8Array,
  kept: 'for ever' | 'now' = 'for ever',
): 'file' {
  response.attachment(name);
  response.type('audio/midi');
  response.setHeader(
    'Cache-Control',
    kept === 'now' ? 'no-store' : 'private, max-age=31536000, immutable',
  );
  response.send(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength));
  return 'file';
}
