import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { readIndependently } from '../../tests/support/independent.ts';
import { take, songOf, refusal } from '../../tests/support/songs.ts';
import { makeHandoff } from '../handoff/handoff.ts';
import { slipText, makeSlip } from '../handoff/slip.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import type { Song } from '../song/song.ts';
import { bridged, countBridges, bridgeEvent, isBridge } from './bridges.ts';
import { eventsFrom } from './event-builder.ts';
import { channelEvent, eventValues, metaEvent, type Events } from './events.ts';
import { readSmf } from './read.ts';
import { largestQuantity, quantityBytes } from './variable-length.ts';
import { fitsFormat, writeSmf } from './write.ts';
import { concatBytes } from './chunks.ts';

const of = (events: Events): { events: Events; bridges: number } => {
  const made = bridged(events);
  if (typeof made === 'string') throw new Error(made);
  return made;
};
const music = (events: Events) => eventValues(events).filter((_, i) => !isBridge(events, i));
const bytes = (...parts: (readonly number[] | Uint8Array)[]): Uint8Array =>
  concatBytes(parts.map((p) => Uint8Array.from(p)));

/**
 * A valid format 0 file: channel 1 all the while, channel 2 not before more than 2²⁸ ticks have gone (three
 * waits of 200,000,000).
 */
function lateChannel(): Uint8Array {
  const wait = quantityBytes(200_000_000);
  const body = bytes(
    [0, 0x90, 60, 64],
    ...[1, 2, 3].flatMap(() => [wait, [0x90, 60, 0], [0, 0x90, 60, 64]]),
    [0, 0x91, 67, 80],
    [96, 0x90, 60, 0],
    [0, 0x91, 67, 0],
    [0, 0xff, 0x2f, 0],
  );
  const header = bytes(
    [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96],
    [0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, body.length],
  );
  return concatBytes([header, body]);
}

function song(file: Uint8Array): Song {
  const reading = readSmf(file);
  if (!reading.ok) throw new Error(reading.problem.code);
  return songsFromSmf(reading.value.smf, 'late.mid')[0]!;
}

describe('issue 9.2: gaps beyond 0x0FFFFFFF ticks', () => {
  it('are bridged by events that say nothing, no music moved, and closed again without a trace', () => {
    const tick = fc.integer({ min: 0, max: 2_000_000_000 });
    fc.assert(
      fc.property(
        fc.array(tick, { maxLength: 8 }),
        fc.array(tick, { maxLength: 3 }),
        (ticks, stray) => {
          const events = eventsFrom([
            ...ticks.map((t) => channelEvent(t, 0x90, 60, 64)),
            ...stray.map((t) => bridgeEvent(t)),
          ]);
          const made = of(events);
          expect(fitsFormat(made.events)).toBe(true);
          expect(music(made.events)).toEqual(music(events));
          expect(countBridges(made.events)).toBe(made.bridges);
          // Bridged once, it is right: the same object.
          expect(of(made.events).events).toBe(made.events);
          if (stray.length === 0 && fitsFormat(events)) expect(made.events).toBe(events);
        },
      ),
      { seed: 92, numRuns: scaleRuns(500) },
    );
  });

  it('a format 0 file whose second channel enters late is split, told, and leaves as its very bytes; no strict reader finds fault', () => {
    const file = lateChannel();
    expect(readIndependently(file).tracks[0]!.at(-1)).toBe('600000096 ff2f');
    const received = song(file);
    const { song: split, report } = take(received, 'tracks.split-by-channel');
    expect(split.tracks.map((t) => fitsFormat(t.events))).toEqual([true, true, true]);
    expect(
      report.changes.filter((c) => c.detail?.includes('bridged by 2 events that say nothing')),
    ).toHaveLength(2);
    const made = makeHandoff(
      split,
      { received: split, asRead: received },
      { format: 0, runningStatus: true, chunks: true },
    );
    if (!made.ok) throw new Error(made.problem.code);
    expect(made.value.bytes).toEqual(file);
    const one = makeHandoff(
      split,
      { received: split, asRead: received },
      { format: 1, runningStatus: true, chunks: true },
    );
    if (!one.ok) throw new Error(one.problem.code);
    expect(one.value.proof.holds).toBe(true);
    expect(
      readIndependently(one.value.bytes).tracks[2]!.filter((e) => !e.includes('ff7f')),
    ).toEqual(['600000000 914350', '600000096 914300', '600000096 ff2f']);
    expect(
      slipText(makeSlip(split, one.value, { name: 'late.mid', sha256: '', sameAsOriginal: false })),
    ).toContain('Track 3: waits longer than a file can say at once');
    // Merged again by a step, the gap has closed: nothing of a bridge is left.
    const merged = take(split, 'tracks.merge').song;
    expect(merged.tracks.map((t) => countBridges(t.events))).toEqual([0]);
  });

  it('steps make gaps as long as is wanted, and ticks that cannot be exact are refused by name', () => {
    const short = songOf([
      channelEvent(0, 0x90, 60, 64),
      channelEvent(96, 0x80, 60, 64),
      metaEvent(0, 3, Uint8Array.of(65)),
    ]);
    const long = take(take(short, 'timing.length', { bars: 5000 }).song, 'timing.resolution', {
      ppq: 32_000,
    }).song;
    expect(countBridges(long.tracks[0]!.events)).toBe(2);
    expect(fitsFormat(long.tracks[0]!.events)).toBe(true);
    const back = readSmf(writeSmf(long));
    expect(back.ok && back.value.problems).toEqual([]);
    expect(bridged(eventsFrom([channelEvent(2 ** 53, 0x90, 60, 64)]))).toBe('too far');
    expect(bridged(eventsFrom([channelEvent(largestQuantity * 10_002, 0x90, 60, 64)]))).toBe(
      'too long',
    );
    const far = songOf([
      channelEvent(0, 0x90, 60, 64),
      channelEvent(largestQuantity * 9_000, 0x80, 60, 64),
    ]);
    expect(
      refusal(take(far, 'timing.resolution', { ppq: 96 }).song, 'timing.resolution', { ppq: 960 }),
    ).toBe('gap-too-long');
  });
});
