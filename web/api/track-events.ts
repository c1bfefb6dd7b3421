import { useQueries } from '@tanstack/react-query';
import type { TrackView } from '#contracts/songs.ts';
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
