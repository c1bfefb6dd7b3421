import type { Division } from '../smf/division.ts';
import type { Events } from '../smf/events.ts';
import { readTrackBody } from '../smf/read.ts';
import type { TextEncodingName } from '../smf/text.ts';
import { writeTrack } from '../smf/write.ts';
import type { Song, Track } from '../song/song.ts';
import type { TrackFacts } from '../song/track-facts.ts';
import type { Blobs, Ports } from './ports.ts';

/**
 * A revision as it is stored: which blobs in which order, and what of the song is in none of them. A track's blob is the body of its MTrk chunk,
 * so the store speaks the open format. What can be worked out of the blobs is kept beside them (`facts.ts`) and stands in no manifest.
 */
export interface Manifest {
  /** 2; those without one are older and carry a summary that nobody reads any more. */
  readonly version?: 2;
  readonly title: string;
  readonly format: 0 | 1 | 2;
  readonly division: Division;
  readonly encoding: TextEncodingName;
  readonly nextTrack: number;
  readonly headerExtra: string;
  readonly tracks: readonly StoredTrack[];
  readonly alienChunks: readonly { readonly beforeTrack: number; readonly id: string; readonly blob: string; readonly bytes: number }[];
  readonly wrapper?: { readonly before: string; readonly after: string };
}

export interface StoredTrack {
  readonly id: string;
  readonly blob: string;
  /** The blob is the chunk as received. */
  readonly received: boolean;
  /** Keys of parked lanes. */
  readonly parked?: readonly string[];
}

/** The manifest of a song; every blob it names is put into `blobs`. Tracks that `known` has already are not encoded again. */
export function toManifest(song: Song, blobs: Blobs, { sha256 }: Pick<Ports, 'sha256'>, known: ReadonlyMap<Track, string> = new Map()): Manifest {
  const keep = (bytes: Uint8Array): string => {
    const hash = sha256(bytes);
    if (!blobs.has(hash)) blobs.set(hash, bytes);
    return hash;
  };
  return {
    version: 2,
    title: song.title,
    format: song.format,
    division: song.division,
    encoding: song.encoding,
    nextTrack: song.nextTrack,
    headerExtra: keep(song.headerExtra),
    tracks: song.tracks.map((t) => ({ id: t.id, blob: known.get(t) ?? keep(t.body ?? writeTrack(t.events)), received: t.body !== undefined, ...(t.parked?.length ? { parked: t.parked } : {}) })),
    alienChunks: song.alienChunks.map((c) => ({ beforeTrack: c.beforeTrack, id: c.id, blob: keep(c.body), bytes: c.body.length })),
    ...(song.wrapper ? { wrapper: { before: keep(song.wrapper.before), after: keep(song.wrapper.after) } } : {}),
  };
}

/** Every blob a manifest names. */
export function blobsOf(manifest: Manifest): string[] {
  const { tracks, alienChunks, wrapper, headerExtra } = manifest;
  return [headerExtra, ...tracks.map((t) => t.blob), ...alienChunks.map((c) => c.blob), ...(wrapper ? [wrapper.before, wrapper.after] : [])];
}

/** Facts of tracks by their blobs. */
export type FactsByBlob = ReadonlyMap<string, TrackFacts>;

/** A track whose events are decoded when they are first asked for: what only needs its facts costs nothing. */
function opened({ id, blob, parked, received }: StoredTrack, bytes: () => Uint8Array, { decoded }: Pick<Ports, 'decoded'>, facts: TrackFacts | undefined): Track {
  let own: Events | undefined;
  return {
    id,
    ...(received ? { body: bytes() } : {}),
    ...(parked ? { parked } : {}),
    ...(facts ? { facts } : {}),
    get events(): Events {
      if (own) return own;
      own = decoded.get(blob) ?? readTrackBody(bytes());
      decoded.set(blob, own);
      return own;
    },
  };
}

export interface OpenSong {
  readonly song: Song;
  /** Which blob each track came from. */
  readonly known: ReadonlyMap<Track, string>;
}

/** The song of a manifest. @throws where a blob is missing. */
export function fromManifest(manifest: Manifest, blobs: ReadonlyMap<string, Uint8Array>, ports: Pick<Ports, 'decoded'>, facts: FactsByBlob = new Map()): OpenSong {
  const blob = (hash: string): Uint8Array => {
    const bytes = blobs.get(hash);
    if (!bytes) throw new Error(`Blob ${hash} is missing`);
    return bytes;
  };
  const known = new Map<Track, string>();
  const tracks = manifest.tracks.map((t) => {
    const bytes = blob(t.blob);
    const track = opened(t, () => bytes, ports, facts.get(t.blob));
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

const nothing = new Uint8Array(0);

/** A song by its tracks' facts: what stands beside its tracks is left out, and of tracks whose facts are known no blob is needed. */
export function outlineOf(manifest: Manifest, blobs: ReadonlyMap<string, Uint8Array>, ports: Pick<Ports, 'decoded'>, facts: FactsByBlob): Song {
  const { title, format, division, encoding, nextTrack } = manifest;
  const bytesOf = (hash: string): Uint8Array => {
    const bytes = blobs.get(hash);
    if (!bytes) throw new Error(`Blob ${hash} is missing`);
    return bytes;
  };
  return { title, format, division, encoding, nextTrack, headerExtra: nothing, alienChunks: [], tracks: manifest.tracks.map((t) => opened({ ...t, received: false }, () => bytesOf(t.blob), ports, facts.get(t.blob))) };
}
