import type { Response } from 'express';

/** Sends a MIDI file to be saved under its name. */
export function sendFile(response: Response, name: string, bytes: Uint8Array): void {
  response.attachment(name);
  response.type('audio/midi');
  response.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
  response.send(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength));
}
