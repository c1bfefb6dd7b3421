import { useQuery } from '@tanstack/react-query';
import type { SongView } from '#contracts/songs.ts';
import { namesSources } from '#core/operations/sources.ts';
import type { Tried } from '../desk/desk.ts';
import { outlineOf, theDesk } from '../desk/the-desk.ts';
import { call, RequestFailed } from './client.ts';
import type { StepAsked } from './queries.ts';

/** Of a song of more events the server is asked what would come of a step: it has them decoded. */
export const mostEvents = 1_000_000;

async function tryStep(song: SongView, { operation, settings, scope }: StepAsked): Promise<Tried> {
  // What a step takes from outside the song is on the server, too.
  const events = song.tracks.reduce((sum, t) => sum + t.events, 0);
  if (events > mostEvents || namesSources(settings ?? {}))
    return {
      ...(await call('takeStep', {
        params: { id: song.id },
        body: { operation, settings, scope, revision: song.revision, preview: true },
      })),
      pictures: {},
    };
  const trial = await theDesk().tryStep(outlineOf(song), song.revision, {
    operation,
    settings,
    scope,
  });
  if (!trial.ok) throw new RequestFailed(422, trial.problem);
  return trial.value;
}

/**
 * What a step would do, worked out beside the page: true for its revision for ever, so that nothing looks
 * it up again. The answer before stays until the next is there, so that pictures follow a slider.
 */
export const usePreview = (song: SongView, asked: StepAsked | undefined) =>
  useQuery({
    queryKey: ['preview', song.id, song.revision, asked],
    queryFn: () => tryStep(song, asked!),
    enabled: asked !== undefined,
    retry: false,
    staleTime: Infinity,
    gcTime: 10_000,
    placeholderData: (before) => before,
  });
