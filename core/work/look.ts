import type { Finding } from '../looking/finding.ts';
import { lookOver } from '../looking/look-over.ts';
import type { KeptLooks, LookedOn } from '../looking/view.ts';
import { digest, type Fact } from './facts.ts';
import type { Given, KeptLook, Lacking, Ports } from './ports.ts';
import type { Manifest } from './manifest.ts';
import { openTracks, outlineWith } from './revision.ts';

export interface LookInput extends Given {
  readonly manifest: Manifest;
  /** Blobs of which a look is kept. */
  readonly kept: ReadonlySet<string>;
  /** Kept looks: all, or as many as are lacking here. */
  readonly looks: ReadonlyMap<string, KeptLook>;
}

/** What the look-over notices in a revision, with the looks at tracks that are new; or which blobs are lacking here, or their looks that are kept. */
export type Looked = { readonly findings: Finding[]; readonly facts: Fact[] } | Lacking;

export function look({ manifest, blobs, known, kept, looks }: LookInput, ports: Ports): Looked {
  const { blobOf, lacking } = openTracks(manifest, { blobs, known }, ports);
  const had = new Map<string, KeptLook>();
  for (const { blob } of manifest.tracks) {
    const found = looks.get(blob) ?? ports.looks.get(blob);
    if (found) had.set(blob, found);
    else if (kept.has(blob)) lacking.push(blob);
  }
  if (lacking.length > 0) return { lacking };
  for (const [blob, given] of looks) ports.looks.set(blob, given);
  const fresh = new Map<string, Fact>();
  const dependsOn = dependencies(manifest, ports);
  const keptLooks: KeptLooks = {
    get(track, on) {
      const found = had.get(blobOf.get(track)!);
      return found?.depends === dependsOn(on) ? found.value : undefined;
    },
    keep(track, on, value) {
      const blob = blobOf.get(track)!;
      const depends = dependsOn(on);
      fresh.set(blob, { blob, kind: 'look', depends, value });
      ports.looks.set(blob, { depends, value });
    },
  };
  return {
    findings: lookOver(outlineWith(manifest, [...blobOf.keys()]), keptLooks),
    facts: [...fresh.values()],
  };
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
  return ({ own, song, heardWith }) =>
    JSON.stringify([
      own,
      once(song, () => song),
      heardWith.map((ids) =>
        ids.length === 1 ? blobOf.get(ids[0]!) : once(ids, () => ids.map((id) => blobOf.get(id))),
      ),
    ]);
}
