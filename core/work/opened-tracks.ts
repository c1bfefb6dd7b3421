import type { Events } from '../smf/events.ts';
import { readTrackBody } from '../smf/read.ts';
import type { Track } from '../song/song.ts';
import type { TrackFacts } from '../song/track-facts.ts';
import type { Decoded, Given, OpenedTrack, Ports } from './ports.ts';
import type { StoredTrack } from './manifest.ts';

/**
 * A track whose events are decoded when they are first asked for: what only needs its facts costs nothing.
 * They are held by `decoded`, which may let them go; while a task works with them they stay the same (a
 * WeakRef keeps what it gave until the task is done).
 */
export function opened(
  { blob, received, ...rest }: StoredTrack,
  bytes: () => Uint8Array,
  decoded: Decoded,
  facts: TrackFacts | undefined,
): Track {
  let own: WeakRef<Events> | undefined;
  return {
    ...rest,
    ...(received ? { body: bytes() } : {}),
    ...(facts ? { facts } : {}),
    get events(): Events {
      const had = own?.deref();
      if (had) return had;
      const events = decoded.get(blob) ?? readTrackBody(bytes());
      decoded.set(blob, events);
      own = new WeakRef(events);
      return events;
    },
  };
}

/**
 * All that is stored of a track names what is at hand of it, so that none is taken for another. One opened
 * again is the same object: what was worked out of it is still known.
 */
function keyOf(stored: StoredTrack): string {
  // Most tracks carry nothing beside their events; songs may have thousands of them.
  const { id, blob, received, ...more } = stored;
  for (const _ in more) return JSON.stringify(stored);
  return `${id} ${blob} ${received}`;
}

/** What opening tracks asks of whoever runs it. */
export type OpeningPorts = Pick<Ports, 'opened' | 'decoded'>;

/**
 * A stored track as it was opened lately, or opened of what is given; undefined where it is neither given
 * nor at hand.
 */
export function openedOf(
  stored: StoredTrack,
  { blobs, known }: Given,
  ports: OpeningPorts,
): OpenedTrack | undefined {
  const key = keyOf(stored);
  const had = ports.opened.get(key);
  const { blob } = stored;
  const fact = known.get(blob);
  if (had && (had.known || !fact)) return had;
  const bytes = blobs.get(blob);
  if (!bytes) return undefined;
  const track = opened(stored, () => bytes, ports.decoded, fact?.facts);
  const made = { track, bytes: bytes.length, ...(fact ? { known: fact } : {}) };
  ports.opened.set(key, made);
  return made;
}
