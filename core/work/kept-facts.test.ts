import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { namedSteps, storedExample } from '../../tests/support/examples.ts';
import { madeSong } from '../../tests/support/made-songs.ts';
import { smfFile } from '../../tests/support/generate.ts';
import { testPorts } from '../../tests/support/ports.ts';
import { controller, note, songOf } from '../../tests/support/songs.ts';
import { KeptLately } from './kept-lately.ts';
import { lookOver } from '../looking/look-over.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import type { Song } from '../song/song.ts';
import { summariseSong } from '../song/song-summary.ts';
import { summaryOf } from '../song/summary.ts';
import type { Fact } from './facts.ts';
import { look } from './look.ts';
import { viewOfSong } from './overview.ts';
import type { Blobs, KeptLook, KnownTracks, Ports } from './ports.ts';
import type { Manifest } from './manifest.ts';
import { fromManifest } from './revision.ts';
import { revisionOf, step } from './step.ts';
import { activity, view } from './view.ts';

/** What a store keeps: the newest fact of each kind of each blob, as JSON. */
class Store {
  readonly blobs: Blobs = new Map();
  private readonly facts = new Map<string, Fact>();

  keep(facts: readonly Fact[]): void {
    for (const fact of facts)
      this.facts.set(`${fact.kind} ${fact.blob}`, JSON.parse(JSON.stringify(fact)) as Fact);
  }

  get<K extends Fact['kind']>(kind: K, blob: string): (Fact & { kind: K }) | undefined {
    return this.facts.get(`${kind} ${blob}`) as (Fact & { kind: K }) | undefined;
  }

  known({ tracks }: Manifest): KnownTracks {
    return new Map(
      tracks.flatMap(({ blob }) =>
        ((fact) =>
          fact
            ? [[blob, { facts: fact.value.facts, notes: fact.value.content.notes }] as const]
            : [])(this.get('track', blob)),
      ),
    );
  }
}

/** Findings of a revision by looks that are kept, which are given where they are lacking. */
function findingsBy(store: Store, manifest: Manifest, ports: Ports): unknown {
  const kept = new Map<string, KeptLook>(
    manifest.tracks.flatMap(({ blob }) =>
      ((fact) => (fact ? [[blob, fact] as const] : []))(store.get('look', blob)),
    ),
  );
  const ask = (looks: ReadonlyMap<string, KeptLook>) =>
    look(
      {
        manifest,
        blobs: store.blobs,
        known: store.known(manifest),
        kept: new Set(kept.keys()),
        looks,
      },
      ports,
    );
  const first = ask(new Map());
  const looked = 'lacking' in first ? ask(kept) : first;
  if ('lacking' in looked) throw new Error('lacking what was given');
  store.keep(looked.facts);
  return looked.findings;
}

/** Everything that is said of a revision from what is kept, against the same worked out of its events anew. */
function holdsAgainstFresh(store: Store, manifest: Manifest): void {
  const { song } = fromManifest(manifest, { blobs: store.blobs }, testPorts());
  const fresh = summariseSong(song);
  const shown = view({ manifest, blobs: store.blobs, known: store.known(manifest) }, testPorts());
  store.keep(shown.facts);
  expect(shown.view).toEqual(viewOfSong(song, fresh.notes, testPorts()));
  const stale = manifest.tracks
    .filter(({ blob }) => store.get('activity', blob)?.depends !== shown.view.grid)
    .map(({ blob }) => [blob, store.blobs.get(blob)!] as const);
  store.keep(activity({ blobs: new Map(stale), starts: shown.view.timing.cellTicks }, testPorts()));
  const tracks = manifest.tracks.map(({ id, blob, parked, instrument }) => {
    const { facts, content } = store.get('track', blob)!.value;
    return summaryOf(
      { id, facts, ...(parked ? { parked } : {}), ...(instrument ? { instrument } : {}) },
      manifest.encoding,
      content,
      store.get('activity', blob)!.value,
    );
  });
  expect(tracks).toEqual(fresh.tracks);
  expect(findingsBy(store, manifest, testPorts())).toEqual(lookOver(song));
}

function stored(song: Song): { store: Store; manifest: Manifest } {
  const store = new Store();
  const made = revisionOf(song, store.blobs, testPorts());
  store.keep(made.facts);
  findingsBy(store, made.manifest, testPorts());
  return { store, manifest: made.manifest };
}

describe('what is kept of tracks says the same as their events, after every operation', () => {
  it.each(namedSteps())('%s', (_, request) => {
    fc.assert(
      fc.property(
        fc.oneof(
          { weight: 3, arbitrary: madeSong },
          { weight: 1, arbitrary: smfFile().map((smf) => songsFromSmf(smf, 'made.mid')[0]!) },
        ),
        (song) => {
          const { store, manifest } = stored(song);
          const taken = step(
            {
              manifest,
              blobs: store.blobs,
              known: store.known(manifest),
              request,
              sources: [storedExample],
            },
            testPorts(),
          );
          if (!taken.ok) return;
          store.keep(taken.value.facts);
          for (const [hash, bytes] of taken.value.blobs) store.blobs.set(hash, bytes);
          const { song: after } = fromManifest(
            taken.value.manifest,
            { blobs: store.blobs },
            testPorts(),
          );
          expect(taken.value.view).toEqual(
            viewOfSong(after, summariseSong(after).notes, testPorts()),
          );
          holdsAgainstFresh(store, taken.value.manifest);
          // And back: what is kept since then counts no more where it depends on something else.
          holdsAgainstFresh(store, manifest);
        },
      ),
      { seed: 31, numRuns: scaleRuns(12) },
    );
  });
});

describe('a step costs what it touches', () => {
  const parts = [0, 1, 2].map((channel) => [
    ...note(0, 96, 60 + channel, 80, channel),
    controller(0, 7, 90, channel),
    controller(50, 7, 80, channel),
  ]);

  it('of the tracks only the one that was changed has new facts, and only it is looked at again', () => {
    const { store, manifest } = stored(songOf([], ...parts));
    const taken = step(
      {
        manifest,
        blobs: store.blobs,
        known: store.known(manifest),
        request: { operation: 'velocity.set', settings: { add: 5 }, scope: { tracks: ['t3'] } },
      },
      testPorts(),
    );
    if (!taken.ok) throw new Error(taken.problem.code);
    const { blob } = taken.value.manifest.tracks[2]!;
    expect(taken.value.facts.map((f) => [f.kind, f.blob])).toEqual([
      ['track', blob],
      ['activity', blob],
    ]);
    store.keep(taken.value.facts);
    for (const [hash, bytes] of taken.value.blobs) store.blobs.set(hash, bytes);
    // No blob of another track is even there to be decoded.
    const decoded: string[] = [];
    const ports: Ports = {
      ...testPorts(),
      decoded: { get: () => undefined, set: (hash) => decoded.push(hash) },
    };
    const kept = new Map(
      manifest.tracks.flatMap((t) =>
        ((fact) => (fact ? [[t.blob, fact] as const] : []))(store.get('look', t.blob)),
      ),
    );
    const looked = look(
      {
        manifest: taken.value.manifest,
        blobs: store.blobs,
        known: store.known(taken.value.manifest),
        kept: new Set(kept.keys()),
        looks: kept,
      },
      ports,
    );
    if ('lacking' in looked) throw new Error('lacking what was given');
    expect(looked.facts.map((f) => f.blob)).toEqual([blob]);
    expect(decoded).toEqual([blob]);
  });

  it('a track that shares its channel is looked at again with the one that was changed: what sounds with it is another', () => {
    const { store, manifest } = stored(
      songOf([], ...parts, [...note(0, 40, 50, 80, 1), controller(10, 11, 40, 1)]),
    );
    const taken = step(
      {
        manifest,
        blobs: store.blobs,
        known: store.known(manifest),
        request: { operation: 'velocity.set', settings: { add: 5 }, scope: { tracks: ['t3'] } },
      },
      testPorts(),
    );
    if (!taken.ok) throw new Error(taken.problem.code);
    for (const [hash, bytes] of taken.value.blobs) store.blobs.set(hash, bytes);
    const kept = new Map(
      manifest.tracks.flatMap((t) =>
        ((fact) => (fact ? [[t.blob, fact] as const] : []))(store.get('look', t.blob)),
      ),
    );
    const looked = look(
      {
        manifest: taken.value.manifest,
        blobs: store.blobs,
        known: store.known(taken.value.manifest),
        kept: new Set(kept.keys()),
        looks: kept,
      },
      testPorts(),
    );
    expect('facts' in looked && looked.facts.map((f) => f.blob).sort()).toEqual(
      [taken.value.manifest.tracks[2]!.blob, manifest.tracks[4]!.blob].sort(),
    );
  });

  it('a runner that can hold hardly any looks is given them all, and asks no more', () => {
    const { store, manifest } = stored(songOf([], ...parts));
    const kept = new Map(
      manifest.tracks.flatMap((t) =>
        ((fact) => (fact ? [[t.blob, fact] as const] : []))(store.get('look', t.blob)),
      ),
    );
    const ports: Ports = { ...testPorts(), looks: new KeptLately(1, () => 1) };
    const ask = (looks: ReadonlyMap<string, KeptLook>) =>
      look(
        {
          manifest,
          blobs: store.blobs,
          known: store.known(manifest),
          kept: new Set(kept.keys()),
          looks,
        },
        ports,
      );
    expect(ask(new Map())).toEqual({ lacking: manifest.tracks.map((t) => t.blob) });
    expect(ask(kept)).toEqual({
      findings: lookOver(fromManifest(manifest, { blobs: store.blobs }, testPorts()).song),
      facts: [],
    });
  });
});
