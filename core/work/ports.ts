import type { TrackLook } from '../looking/track-look.ts';
import type { Events } from '../smf/events.ts';

/** What work on stored songs asks of whoever runs it: the server's threads, the page, a test. */
export interface Ports {
  /** SHA-256 of bytes as 64 hexadecimal digits: the name of a blob. */
  sha256(bytes: Uint8Array): string;
  /** Events of blobs that were decoded before. How many are kept is the runner's to say. */
  readonly decoded: Decoded;
  /** Looks at tracks of blobs, kept likewise. */
  readonly looks: Kept<KeptLook>;
}

/** A look at a track, with all that it depends on beside the track's events. */
export interface KeptLook {
  readonly depends: string;
  readonly value: TrackLook;
}

export interface Kept<T> {
  get(blob: string): T | undefined;
  set(blob: string, value: T): unknown;
}
export type Decoded = Kept<Events>;

/** Bytes by their SHA-256. */
export type Blobs = Map<string, Uint8Array>;
