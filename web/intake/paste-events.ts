import type { StepAsked } from '../api/queries.ts';
import type { Copied } from '../state/copied.ts';

/** Where copied events are put. */
interface PastePlace {
  /** The song that is open. */
  readonly song: string;
  /** Undefined: at their own bars. */
  readonly bar: number | undefined;
  /** The track that the hand is on. */
  readonly track: string | undefined;
}

/**
 * Events that were copied, put into a song: those of one track onto the track that the hand is on, those of
 * several onto their own where it is the same song; else they become tracks.
 */
export function pasteStep(
  { song: from, revision, title, rows = {} }: Copied,
  { song, bar, track }: PastePlace,
): StepAsked {
  const tracks = Object.keys(rows);
  const to = (id: string): string | undefined =>
    tracks.length === 1 && track !== undefined ? track : from === song ? id : undefined;
  return {
    operation: 'tracks.bring-in',
    settings: {
      source: { song: from, revision, called: title },
      tracks,
      rows,
      at: bar === undefined ? { own: true } : { bar },
      onto: tracks.flatMap((id) => (to(id) ? [{ track: id, to: to(id), how: 'merge' }] : [])),
    },
    scope: { tracks: 'all' },
  };
}
