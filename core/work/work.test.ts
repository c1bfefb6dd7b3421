import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { smfFile } from '../../tests/support/generate.ts';
import { plainEvents } from '../../tests/support/independent.ts';
import { runStep } from '../operations/run.ts';
import { writeSmf } from '../smf/write.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import type { Song } from '../song/song.ts';
import { lookOver } from '../looking/look-over.ts';
import { readSmf } from '../smf/read.ts';
import { testPorts as ports } from '../../tests/support/ports.ts';
import { files } from './hand-off.ts';
import { readFile } from './intake.ts';
import { look } from './look.ts';
import type { Blobs } from './ports.ts';
import type { Manifest } from './manifest.ts';
import { blobsOf, fromManifest, toManifest } from './revision.ts';
import { step } from './step.ts';

const asJson = (manifest: Manifest): Manifest => JSON.parse(JSON.stringify(manifest)) as Manifest;
const songOf = (file: Uint8Array): Song => {
  const reading = readSmf(file);
  if (!reading.ok) throw new Error(reading.problem.code);
  return songsFromSmf(reading.value.smf, 'x.mid')[0]!;
};

describe('a revision as it is stored', () => {
  it('opens as the same song: tracks with their very bytes, chunks, header, division', () => {
    fc.assert(
      fc.property(smfFile(), (smf) => {
        const song = songOf(writeSmf(smf));
        const blobs: Blobs = new Map();
        const manifest = asJson(toManifest(song, blobs, ports()));
        expect([...blobs.keys()].sort()).toEqual([...new Set(blobsOf(manifest))].sort());
        const { song: opened } = fromManifest(manifest, { blobs: blobs }, ports());
        expect(opened.tracks.map((t) => [t.id, plainEvents(t.events), t.body])).toEqual(
          song.tracks.map((t) => [t.id, plainEvents(t.events), t.body]),
        );
        expect(writeSmf(opened)).toEqual(writeSmf(song));
      }),
      { seed: 81, numRuns: scaleRuns(200) },
    );
  });

  it('says so where a blob is missing instead of opening half a song', () => {
    const blobs: Blobs = new Map();
    const manifest = toManifest(
      songOf(writeSmf(fc.sample(smfFile(), { seed: 1, numRuns: 1 })[0]!)),
      blobs,
      ports(),
    );
    expect(() => fromManifest(manifest, { blobs: new Map() }, ports())).toThrow(
      /Blob [0-9a-f]{64} is missing/,
    );
  });
});

describe('work on stored songs', () => {
  it('take a file in, step on it and hand it off as the core alone would, storing only what a step changed', () => {
    fc.assert(
      fc.property(
        smfFile().filter((s) => s.format === 1),
        (smf) => {
          const file = writeSmf(smf);
          const intake = readFile({ bytes: file, fileName: 'x.mid' }, ports());
          if (!intake.ok) throw new Error(intake.problem.code);
          const { manifest: first } = intake.value.songs[0]!.first;
          const request = {
            operation: 'tracks.rename',
            settings: { name: 'Named' },
            scope: { tracks: ['t1'] },
          };
          const taken = step(
            { manifest: asJson(first), blobs: intake.value.blobs, known: new Map(), request },
            ports(),
          );
          const alone = runStep(songOf(file), request);
          if (!taken.ok || !alone.ok) throw new Error('refused');
          expect(taken.value.blobs.size).toBeLessThanOrEqual(1);
          const blobs: Blobs = new Map([...intake.value.blobs, ...taken.value.blobs]);
          expect(
            fromManifest(taken.value.manifest, { blobs: blobs }, ports()).song.tracks.map((t) =>
              plainEvents(t.events),
            ),
          ).toEqual(alone.value.song.tracks.map((t) => plainEvents(t.events)));
          const made = files(
            {
              manifest: taken.value.manifest,
              before: { received: first, asRead: first },
              blobs,
              settings: {},
              names: { ending: '.mid', version: '1' },
              from: 0,
              to: 1,
              original: file,
              prove: true,
            },
            ports(),
          );
          expect(made.ok && made.value[0]!.slip.proof.holds).toBe(true);
          expect(
            look(
              {
                manifest: taken.value.manifest,
                blobs,
                known: new Map(),
                kept: new Set(),
                looks: new Map(),
              },
              ports(),
            ),
          ).toMatchObject({ findings: lookOver(alone.value.song) });
        },
      ),
      { seed: 82, numRuns: scaleRuns(150) },
    );
  });

  it('refuse what is no MIDI file with a reason', () => {
    const intake = readFile(
      { bytes: new TextEncoder().encode('Hello'), fileName: 'x.mid' },
      ports(),
    );
    expect(intake.ok ? 'taken' : intake.problem.code).toBe('not-midi');
  });
});
