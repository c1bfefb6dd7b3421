import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { costRatio, fourfoldLimit } from '../../tests/support/cost.ts';
import { scaleRuns } from '../../tests/support/scale.ts';
import { shreddedRamp } from '../../demo/arrivals.ts';
import { dice } from '../../demo/theory.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import { fewSteps, withinSteps, type TimePoint } from './few-steps.ts';
import { gradualRuns } from './gradual-runs.ts';
import { gradualSteps } from './gradual-steps.ts';
import { secondsInto, shapes, type GradualChange } from './gradual.ts';
import { shredsIn } from './shreds.ts';
import { effective, secondsToTicks, tempoMap, ticksToSeconds } from './tempo-map.ts';
import { timingOf } from '../song/timing-of.ts';
import type { TempoPoint } from './timing.ts';

describe('gradual changes in closed form (facts: 100 to 150 BPM over 16 quarters)', () => {
  it.each([
    ['over beats', 7.78493],
    ['over time', 7.68],
  ] as const)('evenly %s it lasts %f s', (shape, seconds) => {
    expect(secondsInto({ quarters: 16, from: 100, to: 150, shape }, 16)).toBeCloseTo(seconds, 5);
  });

  it('agrees with very many small steps added up', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 30, max: 300, noNaN: true }),
        fc.double({ min: 30, max: 300, noNaN: true }),
        fc.integer({ min: 1, max: 64 }),
        (from, to, quarters) => {
          let sum = 0;
          const parts = 20_000;
          for (let i = 0; i < parts; i++)
            sum += (quarters / parts) * (60 / (from + ((to - from) * (i + 0.5)) / parts));
          expect(secondsInto({ quarters, from, to, shape: 'over beats' }, quarters)).toBeCloseTo(
            sum,
            4,
          );
          expect(secondsInto({ quarters, from, to, shape: 'over time' }, quarters)).toBeCloseTo(
            (quarters * 120) / (from + to),
            6,
          );
          let inProportion = 0;
          for (let i = 0; i < parts; i++)
            inProportion += (quarters / parts) * (60 / (from * (to / from) ** ((i + 0.5) / parts)));
          fc.pre(from !== to);
          expect(secondsInto({ quarters, from, to, shape: 'in proportion' }, quarters)).toBeCloseTo(
            inProportion,
            4,
          );
        },
      ),
      { seed: 61, numRuns: scaleRuns(40) },
    );
  });
});

describe('few steps', () => {
  const line = (shape: (typeof shapes)[number], from = 72, to = 138, quarters = 48): TimePoint[] =>
    Array.from({ length: quarters * 8 + 1 }, (_, i) => ({
      atTick: i * 60,
      seconds: secondsInto({ quarters, from, to, shape }, i / 8),
    }));

  it.each(shapes)(
    '72 to 138 over twelve bars of 4/4, evenly %s, is within 1 ms at every beat with at most 48 steps',
    (shape) => {
      const points = line(shape);
      const { steps, error } = fewSteps(points, 480, 0.001);
      expect(steps.length).toBeLessThanOrEqual(48);
      expect(error).toBeLessThanOrEqual(0.001);
      // Held against an ordinary tempo map of those steps, beat by beat.
      const map = tempoMap(steps, { kind: 'ppq', ticksPerQuarter: 480 });
      for (let beat = 0; beat <= 48; beat++)
        expect(
          Math.abs(
            ticksToSeconds(map, beat * 480) -
              secondsInto({ quarters: 48, from: 72, to: 138, shape }, beat),
          ),
        ).toBeLessThanOrEqual(0.001);
    },
  );

  it('keep any line within the error, and within a number of steps where that is asked', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.integer({ min: 1, max: 400 }), fc.integer({ min: 200_000, max: 1_500_000 })),
          { minLength: 1, maxLength: 80 },
        ),
        fc.integer({ min: 1, max: 20 }),
        (runs, most) => {
          const points: TimePoint[] = [{ atTick: 0, seconds: 0 }];
          for (const [ticks, tempo] of runs)
            points.push({
              atTick: points.at(-1)!.atTick + ticks,
              seconds: points.at(-1)!.seconds + (ticks * tempo) / 96e6,
            });
          const made = fewSteps(points, 96, 0.002);
          expect(made.error).toBeLessThanOrEqual(0.002 + 1e-9);
          expect(withinSteps(points, 96, 0.002, most).steps.length).toBeLessThanOrEqual(most);
        },
      ),
      { seed: 62, numRuns: scaleRuns(200) },
    );
  });
});

describe('shreds', () => {
  const ramp = (count: number, every: number): { atTick: number; tempo: number }[] =>
    Array.from({ length: count }, (_, i) => ({
      atTick: 960 + i * every,
      tempo: Math.round(60e6 / (80 + i)),
    }));

  it('are found where many small steps go one way close together', () => {
    expect(shredsIn([{ atTick: 0, tempo: 750_000 }, ...ramp(40, 30)], 480)).toMatchObject([
      { first: 1, last: 40 },
    ]);
    expect(shredsIn(ramp(20, 30), 480)).toEqual([]);
    expect(shredsIn(ramp(40, 1000), 480)).toEqual([]);
  });
});

describe('positions over maps of 1,000 changes', () => {
  const map = tempoMap(
    Array.from({ length: 1000 }, (_, i) => ({
      atTick: i * 97,
      tempo: 300_000 + ((i * 7919) % 600_000),
    })),
    { kind: 'ppq', ticksPerQuarter: 480 },
  );

  it('tick to seconds to tick is the same tick, every one', () => {
    for (let tick = 0; tick < 97_000; tick++)
      if (secondsToTicks(map, ticksToSeconds(map, tick)) !== tick) throw new Error(`tick ${tick}`);
  });
});

describe('gradual changes come back from their steps', () => {
  /** The points of a file: a tempo before, the steps, the tempo it arrives at. */
  const written = (
    change: Omit<GradualChange, 'quarters'>,
    from: number,
    to: number,
    error = 0.001,
  ): TempoPoint[] => [
    { atTick: 0, tempo: 600_000 },
    ...gradualSteps(change, from, to, 480, { error, most: 5000 }).steps,
    { atTick: to, tempo: Math.round(60e6 / change.to) },
  ];

  it.each(shapes)('72 to 138 over twelve bars, evenly %s, within 0.5 ms', (shape) => {
    const change = { from: 72, to: 138, shape };
    const runs = gradualRuns(written(change, 1920, 1920 * 13), 480);
    expect(runs).toMatchObject([{ fromTick: 1920, toTick: 1920 * 13, from: 72, to: 138, shape }]);
    expect(runs[0]!.deviation).toBeLessThanOrEqual(0.0011);
    for (let q = 0; q <= 48; q += 0.25)
      expect(
        Math.abs(
          secondsInto({ ...runs[0]!, quarters: 48 }, q) -
            secondsInto({ ...change, quarters: 48 }, q),
        ),
      ).toBeLessThanOrEqual(0.0005);
  });

  it('of any size, at their very ticks', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 40, max: 240 }),
        fc.double({ min: 1.2, max: 3, noNaN: true }),
        fc.boolean(),
        fc.integer({ min: 8, max: 64 }),
        fc.constantFrom(...shapes),
        (base, factor, faster, quarters, shape) => {
          const [from, to] = faster
            ? [base, Math.round(base * factor)]
            : [Math.round(base * factor), base];
          const points = written({ from, to, shape }, 960, 960 + quarters * 480);
          if (points.length < 8) return;
          const [run, ...more] = gradualRuns(points, 480);
          expect(more).toEqual([]);
          expect([run!.fromTick, run!.toTick]).toEqual([960, 960 + quarters * 480]);
          for (let q = 0; q <= quarters; q++)
            expect(
              Math.abs(
                secondsInto({ ...run!, quarters }, q) -
                  secondsInto({ quarters, from, to, shape }, q),
              ),
            ).toBeLessThanOrEqual(0.0005);
        },
      ),
      { seed: 63, numRuns: scaleRuns(200) },
    );
  });

  it('one after the other, each at its own tempos', () => {
    const up = written({ from: 90, to: 140, shape: 'over beats' }, 480, 480 * 17).slice(0, -1);
    const down = written({ from: 140, to: 80, shape: 'over beats' }, 480 * 17, 480 * 41).slice(1);
    const runs = gradualRuns([...up, ...down], 480);
    expect(runs.map((r) => [r.fromTick, r.toTick])).toEqual([
      [480, 480 * 17],
      [480 * 17, 480 * 41],
    ]);
    expect(runs[0]!.to).toBeCloseTo(140, 0);
    expect(runs[1]).toMatchObject({ from: 140, to: 80 });
  });

  it('that end in another tempo than they lead to', () => {
    const points = [
      ...written({ from: 90, to: 140, shape: 'over beats' }, 480, 480 * 33).slice(0, -1),
      { atTick: 480 * 33, tempo: 1_000_000 },
    ];
    const [run, ...more] = gradualRuns(points, 480);
    expect(more).toEqual([]);
    expect(run).toMatchObject({ fromTick: 480, toTick: 480 * 33 });
    for (let q = 0; q <= 32; q++)
      expect(
        Math.abs(
          secondsInto({ ...run!, quarters: 32 }, q) -
            secondsInto({ quarters: 32, from: 90, to: 140, shape: 'over beats' }, q),
        ),
      ).toBeLessThanOrEqual(0.001);
  });

  it('steps that are meant as steps are none', () => {
    expect(
      gradualRuns(
        [100, 104, 110, 118, 126].map((bpm, i) => ({
          atTick: i * 1920 * 4,
          tempo: Math.round(60e6 / bpm),
        })),
        480,
      ),
    ).toEqual([]);
    expect(
      gradualRuns(
        [
          { atTick: 0, tempo: 500_000 },
          { atTick: 480, tempo: 400_000 },
        ],
        480,
      ),
    ).toEqual([]);
  });

  // Ramps as they arrive: a tempo event every so many ticks, each the tempo its step begins with, has in
  // the middle or ends with, rounded.
  const shredded = (
    from: number,
    to: number,
    quarters: number,
    {
      every,
      at,
      digits,
      shape,
    }: { every: number; at: number; digits: number; shape: (typeof shapes)[number] },
  ): TempoPoint[] => {
    const bpm = (part: number): number =>
      shape === 'over beats'
        ? from + (to - from) * part
        : shape === 'over time'
          ? Math.sqrt(from ** 2 + (to ** 2 - from ** 2) * part)
          : from * (to / from) ** part;
    const point = (atTick: number, its: number): TempoPoint => ({
      atTick,
      tempo: Math.round(60e6 / Number(its.toFixed(digits))),
    });
    const steps = Array.from({ length: (quarters * 480) / every }, (_, i) =>
      point(1920 + i * every, bpm(((i + at) * every) / (quarters * 480))),
    );
    return [point(0, from), ...steps, point(1920 + quarters * 480, to)];
  };
  const styles = shapes.flatMap((shape) =>
    [60, 120, 240].flatMap((every) =>
      [0, 0.5].flatMap((at) => [0, 1, 6].map((digits) => ({ every, at, digits, shape }))),
    ),
  );

  it.each(styles)(
    'when others write them: every $every ticks, $digits decimals, evenly $shape',
    (style) => {
      for (const [from, to, quarters] of [
        [120, 150, 8],
        [72, 138, 16],
        [140, 60, 32],
        [180, 90, 16],
      ] as const) {
        const points = effective(shredded(from, to, quarters, style));
        const [run, ...more] = gradualRuns(points, 480);
        expect(more).toEqual([]);
        // The last tempos are alike where they are rounded.
        expect(1920 + quarters * 480 - run!.toTick).toBeLessThanOrEqual(
          style.digits === 0 ? 3 * style.every : 0,
        );
        // Rounding to whole BPM leaves the beginning or the end open by half a BPM, and by a step.
        expect(Math.abs(run!.from - from)).toBeLessThan(
          Math.max(1.2, (1.6 * Math.abs(to - from) * style.every) / (quarters * 480)),
        );
        expect(Math.abs(run!.to - to)).toBeLessThan(
          Math.max(1.2, (1.6 * Math.abs(to - from) * style.every) / (quarters * 480)),
        );
        // What it says of its error is so: at each point, and no more than 20 ms.
        const map = tempoMap(points, { kind: 'ppq', ticksPerQuarter: 480 });
        const change = { ...run!, quarters: (run!.toTick - run!.fromTick) / 480 };
        for (const p of points.slice(run!.first, run!.last + 1))
          expect(
            Math.abs(
              ticksToSeconds(map, p.atTick) -
                ticksToSeconds(map, run!.fromTick) -
                secondsInto(change, (p.atTick - run!.fromTick) / 480),
            ),
          ).toBeLessThanOrEqual(run!.deviation + 1e-9);
        expect(run!.deviation).toBeLessThanOrEqual(0.02);
      }
    },
  );

  it('a rit. that somebody wrote beat by beat stays as it was written', () => {
    expect(
      gradualRuns(
        [120, 112, 106, 98, 80, 66].map((bpm, i) => ({
          atTick: i * 480,
          tempo: Math.round(60e6 / bpm),
        })),
        480,
      ),
    ).toEqual([]);
  });

  it('issue 10: short ones in eighths, and those by a constant ratio, are told as one', () => {
    for (const steps of [5, 6, 8, 10]) {
      // 120 to 100, an eighth at a time, between tempos that hold.
      const points = [
        { atTick: 0, tempo: 500_000 },
        ...Array.from({ length: steps }, (_, i) => ({
          atTick: 1920 + i * 240,
          tempo: Math.round(60e6 / (120 - (20 * i) / (steps - 1))),
        })),
      ];
      expect(gradualRuns(points, 480)).toHaveLength(1);
    }
    const halved = [
      { atTick: 0, tempo: 500_000 },
      ...Array.from({ length: 33 }, (_, i) => ({
        atTick: 1920 + i * 240,
        tempo: Math.round(500_000 * 2 ** (i / 32)),
      })),
    ];
    expect(gradualRuns(halved, 480)).toMatchObject([{ shape: 'in proportion' }]);
  });

  it('issue 10: a map that was tapped beat by beat is no row of changes of three steps', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const chance = dice(seed);
      const points = Array.from({ length: 200 }, (_, i) => ({
        atTick: i * 480,
        tempo: Math.round(60e6 / (104 + 6 * (chance() - 0.5) + 2 * Math.sin(i / 9))),
      }));
      expect(gradualRuns(points, 480)).toEqual([]);
    }
  });

  it('the shredded ramp of the demo is one change from 104 to 152', () => {
    const song = songsFromSmf(shreddedRamp(), 'x.mid')[0]!;
    const runs = gradualRuns(effective(timingOf(song).tempos), 480);
    expect(runs).toHaveLength(1);
    // It was made of 560 steps of 48/560 BPM, the last of which is 48/560 short of 152.
    expect(runs[0]!.from).toBeCloseTo(104, 0);
    expect(runs[0]!.to).toBeCloseTo(104 + (48 * 559) / 560, 1);
  });

  it('in many thousand steps are told in the time of a few looks at each', () => {
    // Steps over many bars; waves of 200 each; steps that go one way and follow no closed form for long.
    const step = (length: number, bpm: (i: number) => number) =>
      Array.from({ length }, (_, i) => ({ atTick: i * 20, tempo: Math.round(60e6 / bpm(i)) }));
    const find = (length: number) => {
      const ramp = step(length, (i) => 60 + (i * 120) / length);
      const wave = step(length, (i) => 120 + 40 * Math.abs(((i % 200) - 100) / 100));
      const curve = step(length, (i) => 60 * 1.00006 ** i);
      return () => {
        expect(gradualRuns(ramp, 480)).toMatchObject([{ first: 0 }]);
        expect(gradualRuns(wave, 480).length).toBeGreaterThanOrEqual(length / 100 - 1);
        const runs = gradualRuns(curve, 480);
        expect(runs.at(-1)!.toTick - runs[0]!.fromTick).toBeGreaterThan(length * 20 * 0.95);
      };
    };
    // Looking from every point to the end costs sixteen times as much for four times the points.
    expect(costRatio(find(5000), find(20_000), fourfoldLimit)).toBeLessThan(fourfoldLimit);
  });

  it('are looked for among 20,000 tempos that wander at four times the cost of 5,000', () => {
    const look = (length: number) => {
      const points = Array.from({ length }, (_, i) => ({
        atTick: i * 40,
        tempo: 500_000 + ((i * 7919) % 1000),
      }));
      return () => gradualRuns(points, 480);
    };
    expect(costRatio(look(5000), look(20_000), fourfoldLimit)).toBeLessThan(fourfoldLimit);
  });
});

it('positions among 4,000 tempos cost hardly more than among 16: they are not looked through one by one', () => {
  const convert = (length: number) => {
    const map = tempoMap(
      Array.from({ length }, (_, i) => ({
        atTick: i * 97,
        tempo: 300_000 + ((i * 7919) % 600_000),
      })),
      { kind: 'ppq', ticksPerQuarter: 480 },
    );
    return () => {
      let sum = 0;
      for (let i = 0; i < 200_000; i++) sum += ticksToSeconds(map, (i * 31) % (length * 97));
      expect(sum).toBeGreaterThan(0);
    };
  };
  // Halving 4,000 takes three times as many looks as halving 16; one by one it would be 250 times.
  expect(costRatio(convert(16), convert(4000), 12)).toBeLessThan(12);
});
