import { runStep } from '../operations/run.ts';
import { sourceKey, type NamedSource, type Sources } from '../operations/sources.ts';
import { ok, type ReadingProblem, type Result } from '../problems/problems.ts';
import { readSmfs } from '../smf/read.ts';
import { songsFromSmfs } from '../song/from-smf.ts';
import type { Song } from '../song/song.ts';
import type { OpeningPorts } from './opened-tracks.ts';
import type { Blobs, KnownTracks } from './ports.ts';
import type { Manifest } from './manifest.ts';
import { fromManifest } from './revision.ts';
import { splitAtIntake, splitsAtIntake } from './split-at-intake.ts';

/** A source as it is stored: the bytes of a file, or a revision with its blobs. */
export interface StoredSource {
  readonly name: NamedSource;
  readonly stored:
    | { readonly bytes: Uint8Array; readonly fileName: string }
    | { readonly manifest: Manifest; readonly blobs: Blobs; readonly known: KnownTracks };
}

/**
 * Songs of sources by their keys. One that cannot be read, or has no such part, is left out: a step says
 * that it is missing.
 */
export function openSources(sources: readonly StoredSource[], ports: OpeningPorts): Sources {
  const open = sources.map(
    ({ name, stored }) =>
      [
        sourceKey(name),
        'bytes' in stored
          ? songOfFile(stored, 'part' in name ? name.part : 1)
          : openRevision(stored, ports),
      ] as const,
  );
  return new Map(open.filter((entry): entry is [string, Song] => entry[1] !== undefined));
}

const openRevision = (
  { manifest, blobs, known }: { manifest: Manifest; blobs: Blobs; known: KnownTracks },
  ports: OpeningPorts,
): Song => fromManifest(manifest, { blobs, known }, ports).song;

/** The songs of a file as they would come in: their tracks are those that the songs would have. */
export function songsOfFile({ bytes, fileName }: FileBytes): Result<FileSongs> {
  const readings = readSmfs(bytes);
  if (!readings.ok) return readings;
  const songs = songsFromSmfs(readings.value, fileName).map((song): Song => {
    const split = splitsAtIntake(song) ? runStep(song, splitAtIntake) : undefined;
    return split?.ok ? split.value.song : song;
  });
  return ok({ songs, problems: readings.value.flatMap((r) => r.problems) });
}

export interface FileBytes {
  readonly bytes: Uint8Array;
  readonly fileName: string;
}

export interface FileSongs {
  readonly songs: readonly Song[];
  /** What was wrong with the file and was mended. */
  readonly problems: readonly ReadingProblem[];
}

/** One of the songs in a file, counted from 1; undefined where it has no such, or cannot be read. */
function songOfFile(file: FileBytes, part: number): Song | undefined {
  const read = songsOfFile(file);
  return read.ok ? read.value.songs[part - 1] : undefined;
}
