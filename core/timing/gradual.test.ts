import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fewSteps, withinSteps, type TimePoint } from './few-steps.ts';
import { secondsInto, shapes } from './gradual.ts';
import { shredsIn } from './shreds.ts';
import { secondsToTicks, tempoMap, ticksToSeconds } from './tempo-map.ts';

describe('gradual changes in closed form (facts: 100 to 150 BPM over 16 quarters)', () => {
  it.each([['over beats', 7.78493], ['over time', 7.68]] as const)('evenly %s it lasts %f s', (shape, seconds) => {
    expect(secondsInto({ quarters: 16, from: 100, to: 150, shape }, 16)).toBeCloseTo(seconds, 5);
  });

  it('agrees with very many small steps added up', () => {
    fc.assert(
      fc.property(fc.double({ min: 30, max: 300, noNaN: true }), fc.double({ min: 30, max: 300, noNaN: true }), fc.integer({ min: 1, max: 64 }), (from, to, quarters) => {
        let sum = 0;
        const parts = 20_000;
        for (let i = 0; i < parts; i++) sum += (quarters / parts) * (60 / (from + ((to - from) * (i + 0.5)) / parts));
        expect(secondsInto({ quarters, from, to, shape: 'over beats' }, quarters)).toBeCloseTo(sum, 4);
        expect(secondsInto({ quarters, from, to, shape: 'over time' }, quarters)).toBeCloseTo((quarters * 120) / (from + to), 6);
      }),
      { seed: 61, numRuns: 40 },
    );
  });
});

describe('few steps', () => {
  const line = (shape: (typeof shapes)[number], from = 72, to = 138, quarters = 48): TimePoint[] => Array.from({ length: quarters * 8 + 1 }, (_, i) => ({ atTick: i * 60, seconds: secondsInto({ quarters, from, to, shape }, i / 8) }));

  it.each(shapes)('72 to 138 over twelve bars of 4/4, evenly %s, is within 1 ms at every beat with at most 48 steps', (shape) => {
    const points = line(shape);
    const { steps, error } = fewSteps(points, 480, 0.001);
    expect(steps.length).toBeLessThanOrEqual(48);
    expect(error).toBeLessThanOrEqual(0.001);
    // Held against an ordinary tempo map of those steps, beat by beat.
    const map = tempoMap(steps, { kind: 'ppq', ticksPerQuarter: 480 });
    for (let beat = 0; beat <= 48; beat++) expect(Math.abs(ticksToSeconds(map, beat * 480) - secondsInto({ quarters: 48, from: 72, to: 138, shape }, beat))).toBeLessThanOrEqual(0.001);
  });

  it('keep any line within the error, and within a number of steps where that is asked', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 1, max: 400 }), fc.integer({ min: 200_000, max: 1_500_000 })), { minLength: 1, maxLength: 80 }), fc.integer({ min: 1, max: 20 }), (runs, most) => {
        const points: TimePoint[] = [{ atTick: 0, seconds: 0 }];
        for (const [ticks, tempo] of runs) points.push({ atTick: points.at(-1)!.atTick + ticks, seconds: points.at(-1)!.seconds + (ticks * tempo) / 96e6 });
        const made = fewSteps(points, 96, 0.002);
        expect(made.error).toBeLessThanOrEqual(0.002 + 1e-9);
        expect(withinSteps(points, 96, 0.002, most).steps.length).toBeLessThanOrEqual(most);
      }),
      { seed: 62, numRuns: 200 },
    );
  });
});

describe('shreds', () => {
  const ramp = (count: number, every: number): { atTick: number; tempo: number }[] => Array.from({ length: count }, (_, i) => ({ atTick: 960 + i * every, tempo: Math.round(60e6 / (80 + i)) }));

  it('are found where many small steps go one way close together', () => {
    expect(shredsIn([{ atTick: 0, tempo: 750_000 }, ...ramp(40, 30)], 480)).toMatchObject([{ first: 1, last: 40 }]);
    expect(shredsIn(ramp(20, 30), 480)).toEqual([]);
    expect(shredsIn(ramp(40, 1000), 480)).toEqual([]);
  });
});

describe('positions over maps of 1,000 changes', () => {
  const map = tempoMap(Array.from({ length: 1000 }, (_, i) => ({ atTick: i * 97, tempo: 300_000 + ((i * 7919) % 600_000) })), { kind: 'ppq', ticksPerQuarter: 480 });

  it('tick to seconds to tick is the same tick, every one', () => {
    for (let tick = 0; tick < 97_000; tick++) if (secondsToTicks(map, ticksToSeconds(map, tick)) !== tick) throw new Error(`tick ${tick}`);
  });
});
