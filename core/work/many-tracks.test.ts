import { describe, expect, it } from 'vitest';
import { isDeep } from '../../tests/support/scale.ts';
import { testPorts } from '../../tests/support/ports.ts';
import { findId, MTrk } from '../smf/chunks.ts';
import { files } from './hand-off.ts';
import { readFile } from './intake.ts';
import { look } from './look.ts';
import { step } from './step.ts';

const ports = testPorts();
const known = new Map();

/** A format 1 file of empty tracks, by SMF 1.0. */
function emptyTracks(count: number): Uint8Array {
  const chunk = [0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, 4, 0, 0xff, 0x2f, 0];
  const file = new Uint8Array(14 + count * chunk.length);
  file.set([0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 1, count >> 8, count & 255, 0, 96]);
  for (let n = 0; n < count; n++) file.set(chunk, 14 + n * chunk.length);
  return file;
}

/** Processor seconds that each part of the work costs, from reading to the slip. */
function costsOf(file: Uint8Array): Record<string, number> {
  const costs: Record<string, number> = {};
  const counted = <T>(part: string, work: () => T): T => {
    const before = process.cpuUsage();
    const done = work();
    const { user, system } = process.cpuUsage(before);
    costs[part] = (user + system) / 1e6;
    return done;
  };
  const intake = counted('read', () => readFile({ bytes: file, fileName: 'empty.mid' }, ports));
  if (!intake.ok) throw new Error(intake.problem.code);
  const {
    blobs,
    songs: [song],
  } = intake.value;
  const manifest = song!.first.manifest;
  counted('look over', () =>
    look({ manifest, blobs, known, kept: new Set(), looks: new Map() }, ports),
  );
  counted('rename', () =>
    step(
      {
        manifest,
        blobs,
        known,
        request: {
          operation: 'tracks.rename',
          settings: { name: 'Part {n}' },
          scope: { tracks: 'all' },
        },
      },
      ports,
    ),
  );
  counted('remove', () =>
    step(
      {
        manifest,
        blobs,
        known,
        request: { operation: 'tracks.remove-empty', settings: {}, scope: { tracks: 'all' } },
      },
      ports,
    ),
  );
  const settings = { format: 1, runningStatus: true, chunks: true } as const;
  const handed = counted('hand off', () =>
    files(
      {
        manifest,
        before: { received: manifest, asRead: manifest },
        blobs,
        settings,
        names: { ending: '.mid', version: '1' },
        from: 0,
        to: 1,
        original: file,
        prove: true,
      },
      ports,
    ),
  );
  if (!handed.ok || !handed.value[0]!.slip.proof.holds) throw new Error('not handed off');
  return costs;
}

describe('issue 9.3: as many tracks as a header can count', () => {
  it(
    '65,535 empty tracks cost eight times what 8,192 do, in each part of the work',
    { retry: 2 },
    () => {
      expect(findId(emptyTracks(2), MTrk, 15)).toBe(26);
      costsOf(emptyTracks(1024));
      const [few, many] = isDeep
        ? [costsOf(emptyTracks(8192)), costsOf(emptyTracks(65_535))]
        : [costsOf(emptyTracks(2048)), costsOf(emptyTracks(16_384))];
      for (const part of Object.keys(many)) {
        // Eight times the tracks: eight times the work, 64 if it were quadratic. Parts of a few milliseconds say nothing.
        expect(many[part]! / Math.max(0.05, few[part]!), part).toBeLessThan(24);
      }
    },
  );
});
