import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { barTick, cutBar, meterMap, positionAt, positionText, tickOf } from './meter-map.ts';
import { secondsToTicks, tempoMap, ticksToSeconds } from './tempo-map.ts';

const ppq = (ticksPerQuarter: number) => ({ kind: 'ppq' as const, ticksPerQuarter });

describe('ticks and seconds', () => {
  it('begins bar 5 in 4/4 at 8 s without a tempo event (Source: 120 BPM by SMF 1.0; arithmetic)', () => {
    const map = tempoMap([], ppq(480));
    expect(ticksToSeconds(map, barTick(meterMap([], ppq(480)), 5))).toBe(8);
  });

  it('says one tick at 120 BPM as the arithmetic does: 1.0417 ms at 480, 0.5208 ms at 960', () => {
    expect(ticksToSeconds(tempoMap([], ppq(480)), 1) * 1000).toBeCloseTo(1.0417, 4);
    expect(ticksToSeconds(tempoMap([], ppq(960)), 1) * 1000).toBeCloseTo(0.5208, 4);
  });

  it('plays 25 frames of 40 ticks at one tick a millisecond, whatever the tempo (Source: SMF 1.0, division 0xE728)', () => {
    const map = tempoMap([{ atTick: 0, tempo: 300000 }], {
      kind: 'smpte',
      framesPerSecond: 25,
      ticksPerFrame: 40,
    });
    expect(ticksToSeconds(map, 1500)).toBe(1.5);
  });

  it('finds every tick again from its seconds, in maps of a thousand changes', () => {
    const step = fc.tuple(
      fc.integer({ min: 1, max: 4000 }),
      fc.integer({ min: 60_000, max: 3_000_000 }),
    );
    fc.assert(
      fc.property(
        fc.array(step, { minLength: 1000, maxLength: 1000 }),
        fc.array(fc.integer({ min: 0, max: 4_000_000 }), { minLength: 50, maxLength: 50 }),
        (steps, ticks) => {
          let at = 0;
          const map = tempoMap(
            steps.map(([gap, tempo]) => ({ atTick: (at += gap), tempo })),
            ppq(960),
          );
          return ticks.every((t) => secondsToTicks(map, ticksToSeconds(map, t)) === t);
        },
      ),
      { seed: 7, numRuns: scaleRuns(20) },
    );
  });

  it('lets the last of several tempos on one tick count', () => {
    const map = tempoMap(
      [
        { atTick: 0, tempo: 1_000_000 },
        { atTick: 0, tempo: 250_000 },
      ],
      ppq(100),
    );
    expect(ticksToSeconds(map, 400)).toBe(1);
  });
});

describe('bars and beats', () => {
  // Hand-worked at 480 PPQ: two bars of 4/4 (1920 each), two of 7/8 (1680 each), then 3/4 (1440).
  const map = meterMap(
    [
      { atTick: 0, numerator: 4, denominator: 4 },
      { atTick: 3840, numerator: 7, denominator: 8 },
      { atTick: 7200, numerator: 3, denominator: 4 },
    ],
    ppq(480),
  );

  it.each([
    [0, '1.1.0'],
    [1919, '1.4.479'],
    [3840, '3.1.0'],
    [3840 + 250, '3.2.10'],
    [5520, '4.1.0'],
    [7200, '5.1.0'],
    [8640, '6.1.0'],
  ])('tick %i is %s', (at, text) => {
    expect(positionText(positionAt(map, at))).toBe(text);
  });

  it('gives the tick where a bar begins', () => {
    expect([1, 2, 3, 4, 5, 6].map((bar) => barTick(map, bar))).toEqual([
      0, 1920, 3840, 5520, 7200, 8640,
    ]);
  });

  it('begins a new bar where the meter changes inside one, and ignores the same meter stated again', () => {
    const odd = meterMap(
      [
        { atTick: 0, numerator: 4, denominator: 4 },
        { atTick: 1000, numerator: 4, denominator: 4 },
        { atTick: 2400, numerator: 3, denominator: 4 },
      ],
      ppq(480),
    );
    expect(odd.map((s) => [s.atTick, s.bar])).toEqual([
      [0, 1],
      [2400, 3],
    ]);
    expect(positionText(positionAt(odd, 2399))).toBe('2.1.479');
  });

  it('are told of every tick, and give it back, where ticks cannot say a beat: sixteenths at 30 a quarter, eighths at 25', () => {
    const meter = fc.record({
      numerator: fc.integer({ min: 1, max: 9 }),
      denominator: fc.constantFrom(2, 4, 8, 16, 32),
      bars: fc.integer({ min: 1, max: 4 }),
      over: fc.integer({ min: 0, max: 20 }),
    });
    fc.assert(
      fc.property(
        fc.integer({ min: 20, max: 130 }),
        fc.array(meter, { minLength: 1, maxLength: 5 }),
        (ticksPerQuarter, list) => {
          const meters: { atTick: number; numerator: number; denominator: number }[] = [];
          let at = 0;
          for (const { numerator, denominator, bars, over } of list) {
            meters.push({ atTick: at, numerator, denominator });
            at += Math.ceil((bars * numerator * ticksPerQuarter * 4) / denominator) + over;
          }
          const odd = meterMap(meters, ppq(ticksPerQuarter));
          for (let tick = 0; tick < at + 500; tick++)
            if (tickOf(odd, positionAt(odd, tick)) !== tick)
              throw new Error(`tick ${tick} is ${positionText(positionAt(odd, tick))}`);
          for (let bar = 1; bar < odd.at(-1)!.bar + 5; bar++)
            expect(positionAt(odd, barTick(odd, bar))).toEqual({ bar, beat: 1, tick: 0 });
        },
      ),
      { seed: 8, numRuns: scaleRuns(100) },
    );
  });

  it('count no bar more where a meter stands on the tick behind a bar line that ticks cannot say (25 a quarter, by hand: 3/8 are 37.5)', () => {
    const odd = meterMap(
      [
        { atTick: 0, numerator: 3, denominator: 8 },
        { atTick: 38, numerator: 4, denominator: 4 },
      ],
      ppq(25),
    );
    expect(odd.map((s) => [s.atTick, s.bar])).toEqual([
      [0, 1],
      [38, 2],
    ]);
    expect([
      cutBar(odd, 38),
      cutBar(meterMap([{ atTick: 60, numerator: 3, denominator: 4 }], ppq(25)), 60),
    ]).toEqual([undefined, { bar: 1, beats: 2.4, of: 4 }]);
  });

  it('begins bars of 6/8 every three quarters (Source: arithmetic)', () => {
    const six = meterMap([{ atTick: 0, numerator: 6, denominator: 8 }], ppq(96));
    expect(barTick(six, 3)).toBe(2 * 288);
  });
});
