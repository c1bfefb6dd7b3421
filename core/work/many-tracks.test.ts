import { describe, expect, it } from 'vitest';
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

/** Seconds that each part of the work takes, from reading to the slip. */
function timesOf(file: Uint8Array): Record<string, number> {
  const times: Record<string, number> = {};
  const timed = <T>(part: string, work: () => T): T => {
    const began = performance.now();
    const done = work();
    times[part] = (performance.now() - began) / 1000;
    return done;
  };
  const intake = timed('read', () => readFile({ bytes: file, fileName: 'empty.mid' }, ports));
  if (!intake.ok) throw new Error(intake.problem.code);
  const {
    blobs,
    songs: [song],
  } = intake.value;
  const manifest = song!.first.manifest;
  timed('look over', () =>
    look({ manifest, blobs, known, kept: new Set(), looks: new Map() }, ports),
  );
  timed('rename', () =>
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
  timed('remove', () =>
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
  const handed = timed('hand off', () =>
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
  return times;
}

describe('issue 9.3: as many tracks as a header can count', () => {
  it('65,535 empty tracks take neither 40 s nor quadratic time in any part of the work', () => {
    expect(findId(emptyTracks(2), MTrk, 15)).toBe(26);
    timesOf(emptyTracks(1024));
    const [few, many] = [timesOf(emptyTracks(8192)), timesOf(emptyTracks(65_535))];
    for (const part of Object.keys(many)) {
      // Eight times the tracks: eight times the work, 64 if it were quadratic. Parts of a few milliseconds say nothing.
      expect(many[part]! / Math.max(0.05, few[part]!), part).toBeLessThan(24);
    }
    expect(Object.values(many).reduce((sum, s) => sum + s, 0)).toBeLessThan(40);
  });
});
