import type { Finding } from '../looking/finding.ts';
import { lookOver } from '../looking/look-over.ts';
import type { KeptLooks, LookedOn } from '../looking/view.ts';
import { digest, type Fact, type KnownTracks } from './facts.ts';
import type { Blobs, KeptLook, Ports } from './ports.ts';
import { factsIn, fromManifest, type Manifest } from './revision.ts';

export interface LookInput {
  readonly manifest: Manifest;
  readonly blobs: Blobs;
  readonly known: KnownTracks;
  /** Blobs of which a look is kept. */
  readonly kept: ReadonlySet<string>;
  /** All that are kept, or none: a runner that has them at hand needs none, one that lacks some says so. */
  readonly looks: ReadonlyMap<string, KeptLook>;
}

/** What the look-over notices in a revision, with the looks at tracks that are new; or how many of the looks that are kept are lacking here. */
export type Looked =
  { readonly findings: Finding[]; readonly facts: Fact[] } | { readonly lacking: number };

export function look(
  { manifest, blobs, known: had, kept, looks }: LookInput,
  ports: Ports,
): Looked {
  const lacking = manifest.tracks.filter(
    ({ blob }) => kept.has(blob) && !looks.has(blob) && !ports.looks.get(blob),
  ).length;
  if (lacking > 0) return { lacking };
  for (const [blob, given] of looks) ports.looks.set(blob, given);
  const { song, known } = fromManifest(manifest, blobs, ports, factsIn(had));
  const fresh = new Map<string, Fact>();
  const dependsOn = dependencies(manifest, ports);
  const keptLooks: KeptLooks = {
    get(track, on) {
      const blob = known.get(track)!;
      const found = looks.get(blob) ?? ports.looks.get(blob);
      return found?.depends === dependsOn(on) ? found.value : undefined;
    },
    keep(track, on, value) {
      const blob = known.get(track)!;
      const depends = dependsOn(on);
      fresh.set(blob, { blob, kind: 'look', depends, value });
      ports.looks.set(blob, { depends, value });
    },
  };
  return { findings: lookOver(song, keptLooks), facts: [...fresh.values()] };
}

/** Names all that the look at a track depends on beside its events. What tracks share is gone through once. */
function dependencies(manifest: Manifest, ports: Ports): (on: LookedOn) => string {
  const blobOf = new Map(manifest.tracks.map((t) => [t.id, [t.blob, ...(t.parked ?? [])]]));
  const named = new Map<object, string>();
  const once = (key: object, value: () => unknown): string => {
    const name = named.get(key) ?? digest(value(), ports);
    named.set(key, name);
    return name;
  };
  return ({ song, heardWith, ...own }) =>
    JSON.stringify([
      own,
      once(song, () => song),
      heardWith.map((ids) =>
        ids.length === 1 ? blobOf.get(ids[0]!) : once(ids, () => ids.map((id) => blobOf.get(id))),
      ),
    ]);
}
