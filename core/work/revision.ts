import { writeTrack } from '../smf/write.ts';
import type { Song, Track } from '../song/song.ts';
import type { TrackFacts } from '../song/track-facts.ts';
import { opened, openedOf, type OpeningPorts } from './opened-tracks.ts';
import type { Manifest } from './manifest.ts';
import type { Blobs, Given, KnownTrack, KnownTracks, Lacking, Ports } from './ports.ts';

/**
 * The manifest of a song; every blob it names is put into `blobs`. Tracks that `known` has already are not
 * encoded again.
 */
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
export const blobsOf = (manifest: Manifest): string[] => [
  ...manifest.tracks.map((t) => t.blob),
  ...blobsBeside(manifest),
];

/** The blobs of what stands beside the tracks. */
export function blobsBeside({ alienChunks, wrapper, headerExtra }: Manifest): string[] {
  return [
    headerExtra,
    ...alienChunks.map((c) => c.blob),
    ...(wrapper ? [wrapper.before, wrapper.after] : []),
  ];
}

/** Facts of tracks by their blobs. */
export type FactsByBlob = ReadonlyMap<string, TrackFacts>;

export const factsIn = (known: KnownTracks): FactsByBlob =>
  new Map([...known].map(([blob, { facts }]) => [blob, facts]));

export interface OpenSong {
  readonly song: Song;
  /** Which blob each track came from. */
  readonly blobOf: ReadonlyMap<Track, string>;
  /** What is known of its tracks, by blob. */
  readonly known: KnownTracks;
}

/** The tracks of a manifest, with what is known of them; or the blobs of those that are neither given nor at hand. */
export function openTracks(
  { tracks }: Pick<Manifest, 'tracks'>,
  given: Given,
  ports: OpeningPorts,
): Pick<OpenSong, 'blobOf' | 'known'> & Lacking {
  const blobOf = new Map<Track, string>();
  const known = new Map<string, KnownTrack>();
  const lacking: string[] = [];
  for (const stored of tracks) {
    const one = openedOf(stored, given, ports);
    if (one) blobOf.set(one.track, stored.blob);
    else lacking.push(stored.blob);
    if (one?.known) known.set(stored.blob, one.known);
  }
  return { blobOf, known, lacking };
}

/** The song of a manifest. @throws where a blob is neither given nor at hand. */
export function fromManifest(
  manifest: Manifest,
  { blobs, known = new Map() }: Pick<Given, 'blobs'> & Partial<Given>,
  ports: OpeningPorts,
): OpenSong {
  const blob = (hash: string): Uint8Array => {
    const bytes = blobs.get(hash);
    if (!bytes) throw new Error(`Blob ${hash} is missing`);
    return bytes;
  };
  const { lacking, ...tracks } = openTracks(manifest, { blobs, known }, ports);
  lacking.forEach(blob);
  const { headerExtra, alienChunks, wrapper, ...rest } = besideVersion(manifest);
  const song: Song = {
    ...rest,
    headerExtra: blob(headerExtra),
    tracks: [...tracks.blobOf.keys()],
    alienChunks: alienChunks.map((c) => ({
      beforeTrack: c.beforeTrack,
      id: c.id,
      body: blob(c.blob),
    })),
    ...(wrapper ? { wrapper: { before: blob(wrapper.before), after: blob(wrapper.after) } } : {}),
  };
  return { song, ...tracks };
}

const besideVersion = ({ version, ...rest }: Manifest): Omit<Manifest, 'version'> => rest;

const nothing = new Uint8Array(0);

/**
 * A song by its tracks' facts: what stands beside its tracks is left out, and of tracks whose facts are
 * known no blob is needed.
 */
export function outlineOf(
  manifest: Manifest,
  blobs: ReadonlyMap<string, Uint8Array>,
  { decoded }: Pick<Ports, 'decoded'>,
  facts: FactsByBlob,
): Song {
  const bytesOf = (hash: string): Uint8Array => {
    const bytes = blobs.get(hash);
    if (!bytes) throw new Error(`Blob ${hash} is missing`);
    return bytes;
  };
  return outlineWith(
    manifest,
    manifest.tracks.map((t) =>
      opened({ ...t, received: false }, () => bytesOf(t.blob), decoded, facts.get(t.blob)),
    ),
  );
}

/** The song of a manifest with these tracks, without what stands beside them. */
export function outlineWith(manifest: Manifest, tracks: readonly Track[]): Song {
  const { wrapper, ...rest } = besideVersion(manifest);
  return { ...rest, headerExtra: nothing, alienChunks: [], tracks };
}
