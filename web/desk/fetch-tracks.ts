import { addressOf, urlOf } from '#contracts/addresses.ts';
import { mostBlobs } from '#contracts/songs.ts';
import { bodiesOf } from '#core/smf/chunks.ts';
import { readTrackBody } from '#core/smf/read.ts';
import type { Events } from '#core/smf/events.ts';
import { problemFrom } from '../api/client.ts';
import { inSharedMemory } from './shared-memory.ts';

/** The events of tracks by the hashes of their bytes, in that order: a request for as many as one may ask for. */
export async function fetchTracks(hashes: readonly string[]): Promise<Events[]> {
  const events: Events[] = [];
  for (let at = 0; at < hashes.length; at += mostBlobs) {
    const asked = hashes.slice(at, at + mostBlobs);
    const { method } = addressOf('getBlobs');
    const response = await fetch(urlOf('getBlobs', {}), {
      method,
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ hashes: asked }),
    });
    if (!response.ok) throw problemFrom(response.status, await response.text());
    for (const body of bodiesOf(new Uint8Array(await response.arrayBuffer())))
      events.push(inSharedMemory(readTrackBody(body)));
  }
  return events;
}
