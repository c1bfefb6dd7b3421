import { activityFact, gridOf, trackFact, type Fact } from './facts.ts';
import { viewOfSong, type RevisionView } from './overview.ts';
import type { Blobs, KnownTracks, Ports } from './ports.ts';
import type { Manifest } from './manifest.ts';
import { factsIn, outlineOf } from './revision.ts';
import type { Events } from '../smf/events.ts';
import { readTrackBody } from '../smf/read.ts';

/** What is said of a revision, with the facts of its tracks that were not known; `blobs` holds those. */
export function view(
  { manifest, blobs, known: had }: { manifest: Manifest; blobs: Blobs; known: KnownTracks },
  ports: Ports,
): { view: RevisionView; facts: Fact[] } {
  const unknown = [...new Set(manifest.tracks.map((t) => t.blob))].filter((blob) => !had.has(blob));
  const fresh = new Map(
    unknown.map((blob) => [blob, trackFact(blob, eventsOf(blob, blobs, ports))]),
  );
  const facts = new Map([
    ...factsIn(had),
    ...[...fresh].map(([blob, { value }]) => [blob, value.facts] as const),
  ]);
  const song = outlineOf(manifest, blobs, ports, facts);
  const notes = manifest.tracks.reduce(
    (sum, { blob }) => sum + (had.get(blob)?.notes ?? fresh.get(blob)!.value.content.notes),
    0,
  );
  const made = viewOfSong(song, notes, ports);
  return { view: made, facts: [...fresh.values()] };
}

/** The activity of tracks on a bar grid. */
export function activity(
  { blobs, starts }: { blobs: Blobs; starts: readonly number[] },
  ports: Ports,
): Fact[] {
  const grid = gridOf(starts, ports);
  return [...blobs.keys()].map((blob) => activityFact(blob, eventsOf(blob, blobs, ports), grid));
}

function eventsOf(blob: string, blobs: Blobs, { decoded }: Ports): Events {
  const known = decoded.get(blob);
  if (known) return known;
  const events = readTrackBody(blobs.get(blob)!);
  decoded.set(blob, events);
  return events;
}
