import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import type { Events } from '#core/smf/events.ts';
import { theDesk } from '../desk/the-desk.ts';
import { TrackStore } from '../desk/track-store.ts';

/**
 * The page's view of what the desk has: the same memory, and for each track the same object as long as it
 * is looked at.
 */
const tracksHere = new TrackStore((hashes) => theDesk().eventsOf(hashes));

/** Events of several tracks, in their order; undefined until all are there. */
export function useTrackEvents(tracks: readonly TrackView[]): {
  events: readonly Events[] | undefined;
  error: unknown;
} {
  const hashes = tracks.map((t) => t.sha256);
  const { data, error } = useQuery({
    queryKey: ['events', hashes],
    queryFn: () => tracksHere.events(hashes),
    staleTime: Infinity,
    gcTime: 60_000,
    structuralSharing: false,
  });
  return { events: data, error };
}

/** A song, tracks of it and their events, which belong together. */
export interface Loaded {
  readonly song: SongView;
  readonly tracks: readonly TrackView[];
  readonly events: readonly Events[];
}

/**
 * The events of tracks of a song. While those of a newer state are on their way the older stay, together
 * with the song they belong to: what is drawn from them keeps its place, and rows never mean other events
 * than those that are shown.
 */
export function useLoaded(
  song: SongView,
  tracks: readonly TrackView[],
): { loaded: Loaded | undefined; error: unknown } {
  const { events, error } = useTrackEvents(tracks);
  const [held, setHeld] = useState<Loaded>();
  if (events && (held?.events !== events || held.tracks !== tracks || held.song !== song))
    setHeld({ song, tracks, events });
  return { loaded: held?.song.id === song.id ? held : undefined, error };
}
