import { readTrackBody } from '#core/smf/read.ts';
import { urlOf } from '#contracts/addresses.ts';
import type { Events } from '#core/smf/events.ts';
import { problemFrom } from './client.ts';

/** The events of a track, by the hash of its bytes: equal hashes are equal for ever, so they are fetched once. */
export async function fetchEvents(sha256: string): Promise<Events> {
  const response = await fetch(urlOf('getBlob', { sha256 }));
  if (!response.ok) throw problemFrom(response.status, await response.text());
  return readTrackBody(new Uint8Array(await response.arrayBuffer()));
}
