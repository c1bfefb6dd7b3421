import type { TrackLook } from '../looking/track-look.ts';
import type { Events } from '../smf/events.ts';
import type { Track } from '../song/song.ts';
import type { TrackFacts } from '../song/track-facts.ts';

/** What work on stored songs asks of whoever runs it: the server's threads, the page, a test. */
export interface Ports {
  /** SHA-256 of bytes as 64 hexadecimal digits: the name of a blob. */
  sha256(bytes: Uint8Array): string;
  /** Events of blobs that were decoded before. How many are kept is the runner's to say. */
  readonly decoded: Decoded;
  /** Looks at tracks of blobs, kept likewise. */
  readonly looks: Kept<KeptLook>;
  /** Stored tracks that were opened before, by all that is stored of them. */
  readonly opened: Kept<OpenedTrack>;
}

/** A look at a track, with all that it depends on beside the track's events. */
export interface KeptLook {
  readonly depends: string;
  readonly value: TrackLook;
}

export interface OpenedTrack {
  readonly track: Track;
  /** Length of its blob, which it holds. */
  readonly bytes: number;
  /** What is known of it, if anything was given when it was opened. */
  readonly known?: KnownTrack;
}

/** What a task is given of a revision: all, or as little as whoever runs it lacks. */
export interface Given {
  readonly blobs: ReadonlyMap<string, Uint8Array>;
  /** Facts of the tracks of these blobs, as far as they are known. */
  readonly known: KnownTracks;
}

/** The answer of a task that was given too little: these blobs of tracks are lacking. */
export interface Lacking {
  readonly lacking: string[];
}

export interface Kept<T> {
  get(name: string): T | undefined;
  set(name: string, value: T): unknown;
}
export type Decoded = Kept<Events>;

/** Bytes by their SHA-256. */
export type Blobs = Map<string, Uint8Array>;

/** What of a track's facts a step needs. */
export interface KnownTrack {
  readonly facts: TrackFacts;
  readonly notes: number;
}
export type KnownTracks = ReadonlyMap<string, KnownTrack>;
