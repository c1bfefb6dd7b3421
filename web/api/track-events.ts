import { useQueries } from '@tanstack/react-query';
import { useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import type { Events } from '#core/smf/events.ts';
import { fetchEvents } from './events.ts';

/** Events of several tracks, in their order; undefined until all are there. */
export function useTrackEvents(tracks: readonly TrackView[]): { events: readonly Events[] | undefined; error: unknown } {
  return useQueries({
    queries: tracks.map((t) => ({ queryKey: ['events', t.sha256], queryFn: () => fetchEvents(t.sha256), staleTime: Infinity, gcTime: 60_000 })),
    combine: gathered,
  });
}

/** The same list as long as its parts are the same, so that what is computed from it stays. */
let lately: readonly Events[] = [];
function gathered(results: readonly { data?: Events | undefined; error: unknown }[]): { events: readonly Events[] | undefined; error: unknown } {
  const error = results.find((r) => r.error)?.error;
  if (results.some((r) => !r.data)) return { events: undefined, error };
  const events = results.map((r) => r.data!);
  if (events.length === lately.length && events.every((e, i) => e === lately[i])) return { events: lately, error };
  lately = events;
  return { events, error };
}

/** A song, tracks of it and their events, which belong together. */
export interface Loaded {
  readonly song: SongView;
  readonly tracks: readonly TrackView[];
  readonly events: readonly Events[];
}

/**
 * The events of tracks of a song. While those of a newer state are on their way the older stay, together with the song they belong
 * to: what is drawn from them keeps its place, and rows never mean other events than those that are shown.
 */
export function useLoaded(song: SongView, tracks: readonly TrackView[]): { loaded: Loaded | undefined; error: unknown } {
  const { events, error } = useTrackEvents(tracks);
  const [held, setHeld] = useState<Loaded>();
  if (events && (held?.events !== events || held.tracks !== tracks || held.song !== song)) setHeld({ song, tracks, events });
  return { loaded: held?.song.id === song.id ? held : undefined, error };
}
