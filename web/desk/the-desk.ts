import { wrap, type Remote } from 'comlink';
import type { SongView } from '#contracts/songs.ts';
import type { EventsWanted } from '#core/lists/event-text.ts';
import type { StepRequest } from '#core/operations/run.ts';
import type { PlayedSong } from '../sound/messages.ts';
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
  original,
  tracks,
}: SongView): SongOutline {
  return {
    title,
    format,
    division,
    encoding,
    chunks: original.alienChunks.map((c) => c.id),
    tracks: tracks.map(({ id, sha256, parked, instrument }) => ({
      id,
      sha256,
      parked,
      instrument,
    })),
  };
}

/** A song as it is heard, or one track of it. */
export const playedOf = (song: SongView, track?: string): Promise<PlayedSong> =>
  theDesk().played(outlineOf(song), track);

/** A song as it would be heard with steps. */
export const playedWith = (song: SongView, steps: readonly StepRequest[]): Promise<PlayedSong> =>
  theDesk().playedWith(outlineOf(song), steps);

/** Events of a song as a text, for whatever takes no events. */
export const textOf = (song: SongView, wanted: EventsWanted): Promise<string> =>
  theDesk().textOf(outlineOf(song), wanted);
