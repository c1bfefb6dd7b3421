import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { songOf, take } from '../../tests/support/songs.ts';
import { META, meta, metaEvent, payloadOf } from '../smf/events.ts';
import type { Song } from '../song/song.ts';

const ppq = 96;
type Tempo = readonly [tick: number, micros: number];

const tempoMeta = ([tick, micros]: Tempo) =>
  metaEvent(tick, meta.tempo, Uint8Array.of(micros >> 16, (micros >> 8) & 255, micros & 255));
const songWith = (tempos: readonly Tempo[]): Song =>
  songOf([...tempos.map(tempoMeta), metaEvent(tempos.at(-1)![0] + ppq * 400, meta.endOfTrack)]);

/** Tempos of a song, by a plain reading of its metas. */
function temposOf(song: Song): Tempo[] {
  const { events } = song.tracks[0]!;
  const found: Tempo[] = [];
  for (let i = 0; i < events.count; i++) {
    if (events.status[i] !== META || events.data1[i] !== meta.tempo) continue;
    const [a, b, c] = payloadOf(events, i) as unknown as [number, number, number];
    found.push([events.atTick[i]!, (a << 16) | (b << 8) | c]);
  }
  return found;
}

/**
 * Greatest distance in ms between two maps at every single tick, added up tick by tick in whole
 * microsecond-ticks (SMF 1.0: microseconds a quarter).
 */
function furthest(one: readonly Tempo[], other: readonly Tempo[], end: number): number {
  const at = [0, 0];
  const tempo = [500_000, 500_000];
  let [difference, most] = [0, 0];
  for (let tick = 0; tick <= end; tick++) {
    most = Math.max(most, Math.abs(difference));
    [one, other].forEach((map, n) => {
      while (at[n]! < map.length && map[at[n]!]![0] <= tick) tempo[n] = map[at[n]!++]![1];
    });
    difference += tempo[0]! - tempo[1]!;
  }
  return most / ppq / 1000;
}

const micros = (bpm: number): number => Math.round(60_000_000 / bpm);
const ramp = (
  fromTick: number,
  quarters: number,
  from: number,
  to: number,
  each: number,
): Tempo[] =>
  Array.from({ length: Math.floor((quarters * ppq) / each) + 1 }, (_, n): Tempo => [
    fromTick + n * each,
    micros(from + ((to - from) * n * each) / (quarters * ppq)),
  ]);

const bpm = fc.double({ min: 50, max: 220, noNaN: true });
const shreds = fc
  .tuple(fc.integer({ min: 8, max: 60 }), bpm, bpm, fc.constantFrom(3, 6, 12, 24))
  .map(([quarters, from, to, each]) => ramp(0, quarters, from, to, each));
const taps = fc
  .array(fc.double({ min: -0.06, max: 0.06, noNaN: true }), { minLength: 30, maxLength: 200 })
  .map((off) => off.map((o, n): Tempo => [n * ppq, micros(110 * (1 + o))]));
const waves = fc
  .tuple(fc.integer({ min: 4, max: 60 }), fc.double({ min: 2, max: 30, noNaN: true }))
  .map(([period, deep]) =>
    Array.from({ length: 600 }, (_, n): Tempo => [
      n * 12,
      micros(100 + deep * Math.sin((2 * Math.PI * n) / period)),
    ]),
  );
const hundreds = fc
  .tuple(fc.integer({ min: 20, max: 200 }), bpm, bpm, fc.integer({ min: 1, max: 6 }))
  .map(([count, low, high, each]) =>
    Array.from({ length: count }, (_, n) =>
      ramp(n * 6 * ppq, 4, n % 2 ? high : low, n % 2 ? low : high, each * 2),
    ).flat(),
  );

describe('issue 10.1: thinning the tempo map keeps its bound at every tick', () => {
  it.each([
    ['shredded ramps', shreds],
    ['tempos tapped one a beat', taps],
    ['waves', waves],
    ['hundreds of ramps', hundreds],
  ])('%s: never further off than was asked, however many changes, and told', (_, maps) => {
    fc.assert(
      fc.property(maps, fc.constantFrom(0.2, 1, 5), (tempos, error) => {
        const song = songWith(tempos);
        const { song: after, report } = take(song, 'timing.thin-tempo', { error });
        const [before, now] = [temposOf(song), temposOf(after)];
        const off = furthest(before, now, before.at(-1)![0] + 10 * ppq);
        expect(off).toBeLessThanOrEqual(error);
        if (report.changes.length === 0) return;
        expect(now.length).toBeLessThan(before.length);
        const told = Number(
          /nowhere more than ([\d.]+) ms off/.exec(report.changes[0]!.detail!)![1],
        );
        // A bound is rounded up.
        expect(told - off).toBeGreaterThan(-1e-5);
        expect(told - off).toBeLessThan(0.0101);
      }),
      { seed: 10, numRuns: scaleRuns(60) },
    );
  });

  it('where so few steps cannot hold it, that is told', () => {
    const { report } = take(songWith(ramp(0, 40, 60, 180, 6)), 'timing.thin-tempo', {
      error: 0.2,
      most: 3,
    });
    expect(report.changes[0]!.detail).toMatch(
      /nowhere more than \d+\.\d\d ms off, since so few steps hold no 0\.2 ms$/,
    );
  });
});
