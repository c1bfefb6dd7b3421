import { describe, expect, it } from 'vitest';
import { keptPlaces, resolutionFacts, smallestPpq } from './resolution.ts';
import { addressAt, framesAt, offsetEvent } from './start-timecode.ts';
import { secondsToTicks, tempoMap, ticksToSeconds } from './tempo-map.ts';
import { frameRateNames, framesToSeconds, secondsToFrames, timecodeText } from './timecode.ts';

const map = (ppq: number, tempos: { atTick: number; tempo: number }[] = []) =>
  tempoMap(tempos, { kind: 'ppq', ticksPerQuarter: ppq });

describe('what a resolution does to markers on frames (facts: 25 frames a second, 120 BPM)', () => {
  const stated = { atTick: 0, rate: '25', frames: 90_000 } as const;
  const frames = Array.from({ length: 500 }, (_, n) => n * 7 + 1);

  it('at 960 they read back on the same frames', () => {
    const fine = map(960);
    for (const frame of frames) {
      const tick = secondsToTicks(fine, framesToSeconds(frame, '25'));
      expect(Math.round(secondsToFrames(ticksToSeconds(fine, tick), '25'))).toBe(frame);
      expect(addressAt(stated, fine, tick)).toBe(timecodeText(90_000 + frame, '25'));
    }
  });

  it('the nearest tick is off by at most 10.4 ms at 24, 0.52 at 480, 0.26 at 960', () => {
    const ticks = frames.map((f) => secondsToTicks(map(960), framesToSeconds(f, '25')));
    const places = keptPlaces(ticks, map(960), 960, stated);
    const at = (ppq: number) => resolutionFacts(places, ppq, 0.1, stated);
    expect(at(24).greatest).toBeLessThanOrEqual(0.0104167);
    expect(at(24).greatest).toBeGreaterThan(0.008);
    expect(at(480).greatest).toBeLessThanOrEqual(0.00052084);
    expect(at(960).greatest).toBeLessThanOrEqual(0.00026042);
    // A tenth of a frame is 4 ms.
    expect(at(24).beyond).toBeGreaterThan(100);
    expect(at(96).beyond).toBe(0);
    expect(at(480).mean).toBeLessThan(at(480).greatest);
  });

  it('the smallest that keeps every frame exactly at 120 BPM is 25 (by hand: a frame is 0.08 quarters, 2/25)', () => {
    const places = keptPlaces(
      frames.map((f) => secondsToTicks(map(1000), framesToSeconds(f, '25'))),
      map(1000),
      1000,
      stated,
    );
    expect(smallestPpq(places, 1e-9)).toBe(25);
    expect(smallestPpq([], 0)).toBe(1);
    expect(smallestPpq([{ quarters: Math.SQRT2, secondsPerQuarter: 0.5 }], 1e-12)).toBeUndefined();
  });
});

describe('a timecode that is stated at a bar', () => {
  // 480 PPQ, 120 BPM up to bar 3, then 60: bar 5 of 4/4 begins at 4 + 8 = 12 s.
  const tempos = map(480, [
    { atTick: 0, tempo: 500_000 },
    { atTick: 3840, tempo: 1_000_000 },
  ]);

  it('is counted back and on over the tempo map', () => {
    const stated = { atTick: 4 * 1920, rate: '25', frames: 90_000 } as const;
    expect(framesAt(stated, tempos, 0)).toBeCloseTo(90_000 - 300, 9);
    expect(addressAt(stated, tempos, 0)).toBe('00:59:48:00');
    expect(addressAt(stated, tempos, 5 * 1920)).toBe('01:00:04:00');
  });

  it('goes around midnight', () => {
    expect(addressAt({ atTick: 3840, rate: '25', frames: 0 }, tempos, 0)).toBe('23:59:56:00');
    expect([...offsetEvent('25', -100)!.payload]).toEqual([0x20 | 23, 59, 56, 0, 0]);
  });

  it('is an SMPTE offset with hundredths of a frame where the rate has its two bits', () => {
    expect([...offsetEvent('29.97 drop', 107_892)!.payload]).toEqual([0x41, 0, 0, 0, 0]);
    expect([...offsetEvent('24', 24.5)!.payload]).toEqual([0, 0, 1, 0, 50]);
    expect(frameRateNames.filter((rate) => !offsetEvent(rate, 0))).toEqual([
      '23.976',
      '29.97',
      '50',
      '59.94',
      '60',
    ]);
  });
});
