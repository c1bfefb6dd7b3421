import type { Division } from '#core/smf/division.ts';
import type { Events } from '#core/smf/events.ts';
import type { SoundNeeded } from '#core/playing/needs.ts';
import type { Beat, Ways } from '#core/playing/transport.ts';
import type { TempoPoint } from '#core/timing/timing.ts';
import type { Unpacked } from './unpack.ts';

/** A song as it is sent to be played: what is sent of each track, and its tempos. */
export interface PlayedSong {
  readonly tracks: readonly Events[];
  readonly tempos: readonly TempoPoint[];
  readonly division: Division;
  /** Of the metronome; none where nobody counts along. */
  readonly beats?: readonly Beat[];
  /** What is to be made ready. */
  readonly needs?: readonly SoundNeeded[];
}

/** A clip that is heard beside the song. */
export interface Clip {
  readonly song: PlayedSong;
  /** A program in the place of its own, from 0, for its drums or for all else; undefined for its own. */
  readonly program: number | undefined;
  readonly drums: boolean;
  /** How long its bars last as it is written. */
  readonly seconds: number;
  readonly loops: boolean;
  /** How fast: 1 as written. */
  readonly rate: number;
  /** Whether it waits for the next bar of the song that plays. */
  readonly waits: boolean;
}

/** How a song is listened to. */
export interface Listening {
  readonly ways: Ways;
  /** Numbers of the tracks that are left out. */
  readonly silent: readonly number[];
  /**
   * What sounds at a MIDI port: numbers of tracks, and whether it is sent the clock; undefined where there
   * is no port.
   */
  readonly port: { readonly tracks: readonly number[]; readonly clock: boolean } | undefined;
}

/** What the page says to the synthesizer beside it. */
export type ToSynth =
  | { readonly kind: 'sounds'; readonly bytes: ArrayBuffer }
  /** Samples of the bank that were unpacked beside it. */
  | { readonly kind: 'samples'; readonly samples: readonly Unpacked[] }
  | { readonly kind: 'song'; readonly song: PlayedSong }
  | { readonly kind: 'play'; readonly seconds: number; readonly countIn: boolean }
  | ({ readonly kind: 'ways' } & Listening)
  /** Whose notes are to be told as they sound: the number of a track. */
  | { readonly kind: 'watch'; readonly track: number | undefined }
  | { readonly kind: 'pause' }
  /** A clip beside the song; undefined for none. */
  | { readonly kind: 'clip'; readonly clip: Clip | undefined }
  /** All is silent at the port, whatever sounds there. */
  | { readonly kind: 'panic' };

/** A note of the track that is watched: when it sounds, in seconds of the synthesizer's clock; velocity 0 ends it. */
export interface NoteHeard {
  readonly at: number;
  readonly channel: number;
  readonly key: number;
  readonly velocity: number;
}

/** Bytes for the port, and when they are due, in seconds of the synthesizer's clock. */
export interface Outgoing {
  readonly at: number;
  readonly bytes: readonly number[];
}

/**
 * What the synthesizer says: its sounds are there; where it is; that the song, or what is played of it, is over;
 * what sounds; what goes to the port.
 */
export type FromSynth =
  | { readonly kind: 'ready' }
  | { readonly kind: 'failed'; readonly why: string }
  | { readonly kind: 'at'; readonly seconds: number }
  | { readonly kind: 'ended' }
  | { readonly kind: 'clip ended' }
  | { readonly kind: 'notes'; readonly notes: readonly NoteHeard[] }
  | { readonly kind: 'out'; readonly messages: readonly Outgoing[] };
