import { wrap, type Remote } from 'comlink';
import type { SongView } from '#contracts/songs.ts';
import type { Events } from '#core/smf/events.ts';
import type { Desk, SongOutline } from './desk.ts';
import './failures.ts';

let desk: Remote<Desk> | undefined;

/** Begun when it is first asked for. */
export const theDesk = (): Remote<Desk> =>
  (desk ??= wrap<Desk>(
    new Worker(new URL('./desk.worker.ts', import.meta.url), { type: 'module' }),
  ));

export function outlineOf({
  title,
  receivedFormat: format,
  division,
  encoding,
  tracks,
}: SongView): SongOutline {
  return {
    title,
    format,
    division,
    encoding,
    tracks: tracks.map(({ id, sha256, parked, instrument }) => ({
      id,
      sha256,
      parked,
      instrument,
    })),
  };
}

/** The events of every track as they are heard. */
export const playedTracks = (song: SongView): Promise<Events[]> =>
  theDesk().played(outlineOf(song));
