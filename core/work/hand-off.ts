import { makeHandoff, type HandoffSettings } from '../handoff/handoff.ts';
import { makeSlip, type Slip } from '../handoff/slip.ts';
import { ok, type Problem, type Result } from '../problems/problems.ts';
import { sameBytes } from '../smf/chunks.ts';
import type { Song } from '../song/song.ts';
import type { Events } from '../smf/events.ts';
import type { Blobs, Decoded, Ports } from './ports.ts';
import type { Manifest } from './manifest.ts';
import { fromManifest } from './revision.ts';

export interface HandoffInput {
  readonly manifest: Manifest;
  readonly received: Manifest;
  /** The song as it was read, before anything. */
  readonly asRead: Manifest;
  readonly blobs: Blobs;
  readonly settings: HandoffSettings;
  readonly original: Uint8Array;
  /** Name the file would have with this ending. */
  readonly name: string;
}

export function handoff(
  { manifest, received, asRead, blobs, settings, original, name }: HandoffInput,
  ports: Ports,
): Result<{ bytes: Uint8Array; slip: Slip; sha256: string }, Problem> {
  // Equal tracks of several revisions are decoded once, and known to be equal by it.
  const decoded = new Map<string, Events>();
  const once: Decoded = {
    get: (blob) => decoded.get(blob) ?? ports.decoded.get(blob),
    set: (blob, events) => decoded.set(blob, events),
  };
  const open = (of: Manifest): Song =>
    fromManifest(of, { blobs }, { decoded: once, opened: new Map() }).song;
  const song = open(manifest);
  const before = { received: open(received), asRead: open(asRead) };
  const made = makeHandoff(song, before, settings);
  if (!made.ok) return made;
  const { bytes, ending } = made.value;
  const hash = ports.sha256(bytes);
  const fileName = name.replace(/\.\w+$/, (given) =>
    ending === 'rmi' ? '.rmi' : given === '.rmi' ? '.mid' : given,
  );
  return ok({
    bytes,
    sha256: hash,
    slip: makeSlip(song, made.value, {
      name: fileName,
      sha256: hash,
      sameAsOriginal: sameBytes(bytes, original),
    }),
  });
}
