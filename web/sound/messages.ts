import type { Division } from '#core/smf/division.ts';
import type { Events } from '#core/smf/events.ts';
import type { Beat, Ways } from '#core/playing/transport.ts';
import type { TempoPoint } from '#core/timing/timing.ts';

/** A song as it is sent to be played: what is sent of each track, and its tempos. */
export interface PlayedSong {
  readonly tracks: readonly Events[];
  readonly tempos: readonly TempoPoint[];
  readonly division: Division;
  /** Of the metronome; none where nobody counts along. */
  readonly beats?: readonly Beat[];
}

/** What the page says to the synthesizer beside it. */
export type ToSynth =
  | { readonly kind: 'sounds'; readonly bytes: ArrayBuffer }
  | { readonly kind: 'song'; readonly song: PlayedSong }
  | { readonly kind: 'play'; readonly seconds: number; readonly countIn: boolean }
  /** How it is played, and which tracks are left out. */
  | { readonly kind: 'ways'; readonly ways: Ways; readonly silent: readonly number[] }
  | { readonly kind: 'pause' };

/** What the synthesizer says: its sounds are there; where it is; that the song is over. */
export type FromSynth =
  | { readonly kind: 'ready' }
  | { readonly kind: 'failed'; readonly why: string }
  | { readonly kind: 'at'; readonly seconds: number }
  | { readonly kind: 'ended' };
