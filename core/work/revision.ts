import type { Events } from '../smf/events.ts';
import { readTrackBody } from '../smf/read.ts';
import { writeTrack } from '../smf/write.ts';
import type { Song, Track } from '../song/song.ts';
import type { TrackFacts } from '../song/track-facts.ts';
import type { KnownTracks } from './facts.ts';
import type { Blobs, Ports } from './ports.ts';

/**
 * A revision as it is stored: which blobs in which order, and what of the song is in none of them. A track's blob is the body of its MTrk chunk,
 * so the store speaks the open format. What can be worked out of the blobs is kept beside them (`facts.ts`) and stands in no manifest.
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

/** The manifest of a song; every blob it names is put into `blobs`. Tracks that `known` has already are not encoded again. */
export function toManifest(
  song: Song,
  blobs: Blobs,
  { sha256 }: Pick<Ports, 'sha256'>,
  known: ReadonlyMap<Track, string> = new Map(),
): Manifest {
  const keep = (bytes: Uint8Array): string => {
    const hash = sha256(bytes);
    if (!blobs.has(hash)) blobs.set(hash, bytes);
    return hash;
  };
  const { headerExtra, tracks, alienChunks, wrapper, ...rest } = song;
  return {
    ...rest,
    version: 2,
    headerExtra: keep(headerExtra),
    tracks: tracks.map((t) => ({
      ...besideEvents(t),
      blob: known.get(t) ?? keep(t.body ?? writeTrack(t.events)),
      received: t.body !== undefined,
    })),
    alienChunks: alienChunks.map((c) => ({
      beforeTrack: c.beforeTrack,
      id: c.id,
      blob: keep(c.body),
      bytes: c.body.length,
    })),
    ...(wrapper ? { wrapper: { before: keep(wrapper.before), after: keep(wrapper.after) } } : {}),
  };
}

const ofEvents: ReadonlySet<string> = new Set([
  'events',
  'body',
  'facts',
] satisfies (keyof Track)[]);

/** All that a track carries beside its events, which nobody decodes for it. */
const besideEvents = (track: Track): Omit<Track, 'events' | 'body' | 'facts'> =>
  Object.fromEntries(
    Object.keys(track)
      .filter((key) => !ofEvents.has(key))
      .map((key) => [key, track[key as keyof Track]]),
  ) as unknown as Omit<Track, 'events'>;

/** Every blob a manifest names. */
export function blobsOf(manifest: Manifest): string[] {
  const { tracks, alienChunks, wrapper, headerExtra } = manifest;
  return [
    headerExtra,
    ...tracks.map((t) => t.blob),
    ...alienChunks.map((c) => c.blob),
    ...(wrapper ? [wrapper.before, wrapper.after] : []),
  ];
}

/** Facts of tracks by their blobs. */
export type FactsByBlob = ReadonlyMap<string, TrackFacts>;

export const factsIn = (known: KnownTracks): FactsByBlob =>
  new Map([...known].map(([blob, { facts }]) => [blob, facts]));

/** A track whose events are decoded when they are first asked for: what only needs its facts costs nothing. */
function opened(
  { blob, received, ...rest }: StoredTrack,
  bytes: () => Uint8Array,
  { decoded }: Pick<Ports, 'decoded'>,
  facts: TrackFacts | undefined,
): Track {
  let own: Events | undefined;
  return {
    ...rest,
    ...(received ? { body: bytes() } : {}),
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
export function fromManifest(
  manifest: Manifest,
  blobs: ReadonlyMap<string, Uint8Array>,
  ports: Pick<Ports, 'decoded'>,
  facts: FactsByBlob = new Map(),
): OpenSong {
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
  const { headerExtra, alienChunks, wrapper, ...rest } = besideVersion(manifest);
  const song: Song = {
    ...rest,
    headerExtra: blob(headerExtra),
    tracks,
    alienChunks: alienChunks.map((c) => ({
      beforeTrack: c.beforeTrack,
      id: c.id,
      body: blob(c.blob),
    })),
    ...(wrapper ? { wrapper: { before: blob(wrapper.before), after: blob(wrapper.after) } } : {}),
  };
  return { song, known };
}

const besideVersion = ({ version, ...rest }: Manifest): Omit<Manifest, 'version'> => rest;

const nothing = new Uint8Array(0);

/** A song by its tracks' facts: what stands beside its tracks is left out, and of tracks whose facts are known no blob is needed. */
export function outlineOf(
  manifest: Manifest,
  blobs: ReadonlyMap<string, Uint8Array>,
  ports: Pick<Ports, 'decoded'>,
  facts: FactsByBlob,
): Song {
  const { wrapper, ...rest } = besideVersion(manifest);
  const bytesOf = (hash: string): Uint8Array => {
    const bytes = blobs.get(hash);
    if (!bytes) throw new Error(`Blob ${hash} is missing`);
    return bytes;
  };
  const tracks = manifest.tracks.map((t) =>
    opened({ ...t, received: false }, () => bytesOf(t.blob), ports, facts.get(t.blob)),
  );
  return { ...rest, headerExtra: nothing, alienChunks: [], tracks };
}
