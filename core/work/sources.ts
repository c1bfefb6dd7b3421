import { runStep } from '../operations/run.ts';
import { sourceKey, type NamedSource, type Sources } from '../operations/sources.ts';
import { readSmfs } from '../smf/read.ts';
import { songsFromSmfs } from '../song/from-smf.ts';
import type { Song } from '../song/song.ts';
import type { KnownTracks } from './facts.ts';
import type { Blobs, Ports } from './ports.ts';
import { factsIn, fromManifest, type Manifest } from './revision.ts';
import { splitAtIntake, splitsAtIntake } from './split-at-intake.ts';

/** A source as it is stored: the bytes of a file, or a revision with its blobs. */
export interface StoredSource {
  readonly name: NamedSource;
  readonly stored:
    | { readonly bytes: Uint8Array; readonly fileName: string }
    | { readonly manifest: Manifest; readonly blobs: Blobs; readonly known: KnownTracks };
}

/** Songs of sources by their keys. One that cannot be read, or has no such part, is left out: a step says that it is missing. */
export function openSources(
  sources: readonly StoredSource[],
  ports: Pick<Ports, 'decoded'>,
): Sources {
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
  ports: Pick<Ports, 'decoded'>,
): Song => fromManifest(manifest, blobs, ports, factsIn(known)).song;

/** A file as it would come in: its tracks are those that its song would have. */
export function songOfFile(
  { bytes, fileName }: { bytes: Uint8Array; fileName: string },
  part = 1,
): Song | undefined {
  const readings = readSmfs(bytes);
  const song = readings.ok ? songsFromSmfs(readings.value, fileName)[part - 1] : undefined;
  const split = song && splitsAtIntake(song) ? runStep(song, splitAtIntake) : undefined;
  return split?.ok ? split.value.song : song;
}
