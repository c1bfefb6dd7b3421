import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { exampleSources, namedSteps } from '../../tests/support/examples.ts';
import { madeSong } from '../../tests/support/made-songs.ts';
import { testPorts } from '../../tests/support/ports.ts';
import { runStep } from '../operations/run.ts';
import type { Song, Track } from '../song/song.ts';
import type { Blobs } from './ports.ts';
import type { Manifest } from './manifest.ts';
import { fromManifest, toManifest } from './revision.ts';

/** A field that no code here knows of, as a later version may add one. */
const marked = (song: Song): Song =>
  ({
    ...song,
    later: { of: 'song' },
    tracks: song.tracks.map((t) => ({ ...t, later: { of: t.id } })),
  }) as Song;
const markOf = (of: Song | Track): unknown => (of as unknown as { later?: { of: string } }).later;

function stored(song: Song): Song {
  const blobs: Blobs = new Map();
  const manifest = JSON.parse(JSON.stringify(toManifest(song, blobs, testPorts()))) as Manifest;
  return fromManifest(manifest, { blobs: blobs }, testPorts()).song;
}

describe('a field that nobody knows stays with its song and its tracks', () => {
  it.each(namedSteps())('%s', (_, request) => {
    fc.assert(
      fc.property(madeSong.map(marked), (before) => {
        const done = runStep(before, request, exampleSources);
        if (!done.ok) return;
        for (const song of [done.value.song, stored(done.value.song)]) {
          expect(markOf(song)).toEqual({ of: 'song' });
          for (const t of song.tracks)
            if (before.tracks.some((had) => had.id === t.id))
              expect([t.id, markOf(t)]).toEqual([t.id, { of: t.id }]);
        }
      }),
      { seed: 17, numRuns: scaleRuns(15) },
    );
  });
});
