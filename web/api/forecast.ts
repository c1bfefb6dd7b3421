import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { SongView } from '#contracts/songs.ts';
import type { ForecastItem } from '#core/handoff/forecast/item.ts';
import type { Limits } from '#core/handoff/receiver/receiver.ts';
import type { HandoffAsked } from '#core/handoff/settings.ts';
import { outlineOf, theDesk } from '../desk/the-desk.ts';
import { RequestFailed } from './client.ts';
import { previewed } from './handoffs.ts';

/** Of a song of more events the server is asked: it has them decoded. */
const mostEvents = 1_000_000;

async function forecast(
  song: SongView,
  asked: HandoffAsked,
  receiver: { id: string; takes: Limits } | undefined,
  signal: AbortSignal,
): Promise<readonly ForecastItem[]> {
  const events = song.tracks.reduce((sum, t) => sum + t.events, 0);
  if (events > mostEvents) {
    const named = receiver ? { receiver: receiver.id } : {};
    const body = { ...asked, ...named, revision: song.revision, preview: true };
    return ((await previewed(song.id, body, signal)).forecast ?? []) as readonly ForecastItem[];
  }
  const made = await theDesk().forecast(outlineOf(song), asked, receiver?.takes);
  if (!made.ok) throw new RequestFailed(422, made.problem);
  return made.value;
}

/** What will not arrive at a receiver, or arrives changed; worked out beside the page. */
export const useForecast = (
  song: SongView,
  asked: HandoffAsked,
  receiver: { id: string; takes: Limits } | undefined,
) =>
  useQuery({
    queryKey: ['song', song.id, 'forecast', song.revision, asked, receiver?.id ?? null],
    queryFn: ({ signal }) => forecast(song, asked, receiver, signal),
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: Infinity,
    gcTime: 60_000,
  });
