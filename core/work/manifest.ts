import type { Song, Track } from '../song/song.ts';

/**
 * A revision as it is stored: which blobs in which order, and what of the song is in none of them. A
 * track's blob is the body of its MTrk chunk, so the store speaks the open format. What can be worked out
 * of the blobs is kept beside them (`facts.ts`) and stands in no manifest.
 */
export interface Manifest extends Omit<Song, 'headerExtra' | 'tracks' | 'alienChunks' | 'wrapper'> {
  readonly version: 2;
  readonly headerExtra: string;
  readonly tracks: readonly StoredTrack[];
  readonly alienChunks: readonly {
    readonly beforeTrack: number;
    readonly id: string;
    readonly blob: string;
    readonly bytes: number;
  }[];
  readonly wrapper?: { readonly before: string; readonly after: string };
}

/** A track with its blob in place of its events. */
export interface StoredTrack extends Omit<Track, 'events' | 'body' | 'facts'> {
  readonly blob: string;
  /** The blob is the chunk as received. */
  readonly received: boolean;
}
