import type { Finding } from '../looking/finding.ts';
import { lookOver } from '../looking/look-over.ts';
import type { KeptLooks, LookedOn } from '../looking/view.ts';
import type { Track } from '../song/song.ts';
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

/**
 * What the look-over notices in a revision, with the looks at tracks that are new; or which blobs are
 * lacking here, or their looks that are kept.
 */
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
      return found?.depends === dependsOn(track, on) ? found.value : undefined;
    },
    keep(track, on, value) {
      const blob = blobOf.get(track)!;
      const depends = dependsOn(track, on);
      fresh.set(blob, { blob, kind: 'look', depends, value });
      ports.looks.set(blob, { depends, value });
    },
  };
  return {
    findings: lookOver(outlineWith(manifest, [...blobOf.keys()]), keptLooks),
    facts: [...fresh.values()],
  };
}

/** What a look at a track was found to depend on, with what that was worked out from. */
interface Named {
  readonly own: LookedOn['own'];
  readonly beside: string;
  readonly depends: string;
}

/**
 * By track: of most nothing has changed since the last look, and their dependencies are named again only
 * where something has.
 */
const namedBefore = new WeakMap<Track, Named>();

/** Names all that the look at a track depends on beside its events. What tracks share is gone through once. */
function dependencies(manifest: Manifest, ports: Ports): (track: Track, on: LookedOn) => string {
  const blobOf = new Map(
    manifest.tracks.map((t) => [t.id, t.parked ? [t.blob, ...t.parked] : t.blob]),
  );
  const named = new Map<object, string>();
  const once = (key: object, value: () => unknown): string => {
    const name = named.get(key) ?? digest(value(), ports);
    named.set(key, name);
    return name;
  };
  return (track, { own, song, heardWith }) => {
    const heard = heardWith.map((ids) =>
      ids.length === 1 ? blobOf.get(ids[0]!) : once(ids, () => ids.map((id) => blobOf.get(id))),
    );
    const beside = `${once(song, () => song)} ${heard.join(' ')}`;
    const before = namedBefore.get(track);
    if (before?.beside === beside && sameOwn(before.own, own)) return before.depends;
    const depends = JSON.stringify([own, beside]);
    namedBefore.set(track, { own, beside, depends });
    return depends;
  };
}

/** Whether nothing of a track itself has changed. What differs only in that it was read anew is named anew. */
const sameOwn = (a: LookedOn['own'], b: LookedOn['own']): boolean =>
  a.id === b.id &&
  a.label === b.label &&
  a.name === b.name &&
  a.map === b.map &&
  a.instrument === b.instrument &&
  (a.parked === b.parked || a.parked.length + b.parked.length === 0);
