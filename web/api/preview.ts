import { useQuery } from '@tanstack/react-query';
import { wrap, type Remote } from 'comlink';
import type { SongView } from '#contracts/songs.ts';
import { namesSources } from '#core/operations/sources.ts';
import type { Events } from '#core/smf/events.ts';
import type { Desk, SongOutline, Tried } from '../desk/desk.ts';
import { call, RequestFailed } from './client.ts';
import type { StepAsked } from './queries.ts';

let desk: Remote<Desk> | undefined;

/** Begun when it is first asked for. */
const theDesk = (): Remote<Desk> => (desk ??= wrap<Desk>(new Worker(new URL('../desk/desk.worker.ts', import.meta.url), { type: 'module' })));

/** Fetching the events of more tracks than this one by one takes longer than asking the server what would come of a step. */
const mostTracks = 150;

function outlineOf({ title, receivedFormat: format, division, encoding, tracks }: SongView): SongOutline {
  return { title, format, division, encoding, tracks: tracks.map(({ id, sha256, parked }) => ({ id, sha256, parked })) };
}

/** The events of every track as they are heard. */
export const playedTracks = (song: SongView): Promise<Events[]> => theDesk().played(outlineOf(song));

async function tryStep(song: SongView, { operation, settings, scope }: StepAsked): Promise<Tried> {
  // What a step takes from outside the song is on the server.
  if (song.tracks.length > mostTracks || namesSources(settings ?? {})) return { ...(await call('takeStep', { params: { id: song.id }, body: { operation, settings, scope, revision: song.revision, preview: true } })), pictures: {} };
  const trial = await theDesk().tryStep(outlineOf(song), song.revision, { operation, settings, scope });
  if (!trial.ok) throw new RequestFailed(422, trial.problem);
  return trial.value;
}

/** What a step would do, worked out beside the page: true for its revision for ever, so that nothing looks it up again. The answer before stays until the next is there, so that pictures follow a slider. */
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
