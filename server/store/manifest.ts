import { createHash } from 'node:crypto';
import type { Division } from '#core/smf/division.ts';
import { readTrackBody } from '#core/smf/read.ts';
import type { Events } from '#core/smf/events.ts';
import type { TextEncodingName } from '#core/smf/text.ts';
import { writeTrack } from '#core/smf/write.ts';
import type { Song, Track } from '#core/song/song.ts';
import type { SongSummary } from '#core/song/song-summary.ts';

/**
 * A revision as it is stored: names of blobs, and the summary that lists and sheets are shown from.
 * A track's blob is the body of its MTrk chunk, so the store speaks the open format.
 */
export interface Manifest {
  readonly title: string;
  readonly format: 0 | 1 | 2;
  readonly division: Division;
  readonly encoding: TextEncodingName;
  readonly nextTrack: number;
  readonly headerExtra: string;
  readonly tracks: readonly { readonly id: string; readonly blob: string; /** The blob is the chunk as received. */ readonly received: boolean; /** Keys of parked lanes. */ readonly parked?: readonly string[] }[];
  readonly alienChunks: readonly { readonly beforeTrack: number; readonly id: string; readonly blob: string; readonly bytes: number }[];
  readonly wrapper?: { readonly before: string; readonly after: string };
  readonly summary: SongSummary;
}

/** What a list of songs says of one: small, while a manifest can be large. */
export interface Overview {
  readonly title: string;
  readonly format: 0 | 1 | 2;
  readonly tracks: number;
  readonly notes: number;
  readonly bars: number;
  readonly seconds: number;
}

export const overview = ({ title, format, tracks, summary }: Manifest): Overview => ({ title, format, tracks: tracks.length, notes: summary.notes, bars: summary.timing.bars, seconds: summary.timing.seconds });

export type Blobs = Map<string, Uint8Array>;

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

function keep(blobs: Blobs, bytes: Uint8Array): string {
  const hash = sha256(bytes);
  if (!blobs.has(hash)) blobs.set(hash, bytes);
  return hash;
}

/** The manifest of a song; every blob it names is put into `blobs`. Tracks that `known` has already are not encoded again. */
export function toManifest(song: Song, summary: SongSummary, blobs: Blobs, known: ReadonlyMap<Track, string> = new Map()): Manifest {
  return {
    title: song.title,
    format: song.format,
    division: song.division,
    encoding: song.encoding,
    nextTrack: song.nextTrack,
    headerExtra: keep(blobs, song.headerExtra),
    tracks: song.tracks.map((t) => ({ id: t.id, blob: known.get(t) ?? keep(blobs, t.body ?? writeTrack(t.events)), received: t.body !== undefined, ...(t.parked?.length ? { parked: t.parked } : {}) })),
    alienChunks: song.alienChunks.map((c) => ({ beforeTrack: c.beforeTrack, id: c.id, blob: keep(blobs, c.body), bytes: c.body.length })),
    ...(song.wrapper ? { wrapper: { before: keep(blobs, song.wrapper.before), after: keep(blobs, song.wrapper.after) } } : {}),
    summary,
  };
}

/** Every blob a manifest names. */
export function blobsOf(manifest: Manifest): string[] {
  const { tracks, alienChunks, wrapper, headerExtra } = manifest;
  return [headerExtra, ...tracks.map((t) => t.blob), ...alienChunks.map((c) => c.blob), ...(wrapper ? [wrapper.before, wrapper.after] : [])];
}

/** Events by blob: where several revisions are opened together, equal tracks are decoded once and known to be equal. */
export type Decoded = Map<string, Events>;

/** A track whose events are decoded when they are first asked for: a step reads only what it looks at. */
function storedTrack({ id, blob, received, parked }: Manifest['tracks'][number], bytes: Uint8Array, decoded: Decoded): Track {
  return {
    id,
    ...(received ? { body: bytes } : {}),
    ...(parked ? { parked } : {}),
    get events(): Events {
      const known = decoded.get(blob);
      if (known) return known;
      const events = readTrackBody(bytes);
      decoded.set(blob, events);
      return events;
    },
  };
}

export interface StoredSong {
  readonly song: Song;
  /** Which blob each track came from. */
  readonly known: ReadonlyMap<Track, string>;
}

export function fromManifest(manifest: Manifest, blobs: ReadonlyMap<string, Uint8Array>, decoded: Decoded = new Map()): StoredSong {
  const blob = (hash: string): Uint8Array => {
    const bytes = blobs.get(hash);
    if (!bytes) throw new Error(`Blob ${hash} is missing`);
    return bytes;
  };
  const known = new Map<Track, string>();
  const tracks = manifest.tracks.map((t) => {
    const track = storedTrack(t, blob(t.blob), decoded);
    known.set(track, t.blob);
    return track;
  });
  const song: Song = {
    title: manifest.title,
    format: manifest.format,
    division: manifest.division,
    encoding: manifest.encoding,
    nextTrack: manifest.nextTrack,
    headerExtra: blob(manifest.headerExtra),
    tracks,
    alienChunks: manifest.alienChunks.map((c) => ({ beforeTrack: c.beforeTrack, id: c.id, body: blob(c.blob) })),
    ...(manifest.wrapper ? { wrapper: { before: blob(manifest.wrapper.before), after: blob(manifest.wrapper.after) } } : {}),
  };
  return { song, known };
}

