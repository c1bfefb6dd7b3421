import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { costRatio, fourfoldLimit } from '../../tests/support/cost.ts';
import { scaleRuns } from '../../tests/support/scale.ts';
import {
  composed,
  inverse,
  isSameTime,
  placesOf,
  sameTime,
  secondsKept,
  shiftedBy,
  stretchedBy,
  type Piece,
  type TimeMap,
} from './time-map.ts';
import { secondsToExactTicks, tempoMap, ticksToSeconds } from './tempo-map.ts';

/** A bar cut, one moved, one repeated: what a running order A A C of four bars of 384 ticks makes. */
const order: TimeMap = [
  { from: 0, until: 384, to: 0, scale: 1 },
  { from: 0, until: 384, to: 384, scale: 1 },
  { from: 768, until: 1152, to: 768, scale: 1 },
];

const anyMap = fc
  .array(
    fc.record({
      from: fc.integer({ min: 0, max: 40 }),
      length: fc.integer({ min: 1, max: 20 }),
      gap: fc.integer({ min: 0, max: 3 }),
      scale: fc.constantFrom(0.5, 1, 1, 2),
    }),
    { minLength: 1, maxLength: 5 },
  )
  .map((list): TimeMap => {
    let to = 0;
    return list.map(({ from, length, gap, scale }, n): Piece => {
      const piece = {
        from,
        until: n === list.length - 1 ? null : from + length,
        to: to + gap,
        scale,
      };
      to = piece.to + length * scale;
      return piece;
    });
  });
/** A tick inside pieces, on no border of any map. */
const tick = fc.integer({ min: 0, max: 60 }).map((n) => n + 1 / 3);

describe('where old time stands now', () => {
  it('a bar that is taken twice stands twice, one that is left out nowhere (worked by hand)', () => {
    expect([0, 100, 384, 768, 1000, 1152].map((t) => placesOf(order, t))).toEqual([
      [0, 384],
      [100, 484],
      [],
      [768],
      [1000],
      [],
    ]);
  });

  it('at what is inserted a place has two sides: behind it by default, and the end of what led up to it', () => {
    const inserted: TimeMap = [
      { from: 0, until: 384, to: 0, scale: 1 },
      { from: 384, until: null, to: 768, scale: 1 },
    ];
    expect([placesOf(inserted, 384), placesOf(inserted, 384, 'before')]).toEqual([[768], [384]]);
    expect([
      placesOf(shiftedBy(96), 0),
      placesOf(shiftedBy(-96), 50),
      placesOf(shiftedBy(-96), 96),
      placesOf(stretchedBy(2.5), 40),
    ]).toEqual([[96], [], [0], [100]]);
  });

  it('law: two maps as one lead where one after the other leads; identity changes nothing', () => {
    fc.assert(
      fc.property(anyMap, anyMap, tick, (a, b, t) => {
        const stepwise = placesOf(a, t)
          .flatMap((there) => placesOf(b, there))
          .sort((x, y) => x - y);
        const sorted = placesOf(composed(a, b), t).sort((x, y) => x - y);
        expect(sorted).toHaveLength(stepwise.length);
        sorted.forEach((place, n) => expect(place).toBeCloseTo(stepwise[n]!, 6));
        expect(placesOf(composed(a, sameTime), t)).toEqual(placesOf(a, t));
        expect(placesOf(composed(sameTime, a), t)).toEqual(placesOf(a, t));
      }),
      { seed: 61, numRuns: scaleRuns(2000) },
    );
  });

  it('law: the way back leads from every place to where it came from', () => {
    fc.assert(
      fc.property(anyMap, tick, (a, t) => {
        for (const place of placesOf(a, t))
          expect(placesOf(inverse(a), place).some((back) => Math.abs(back - t) < 1e-6)).toBe(true);
      }),
      { seed: 62, numRuns: scaleRuns(2000) },
    );
    expect(isSameTime(composed(shiftedBy(384), inverse(shiftedBy(384))))).toBe(true);
    expect([isSameTime(sameTime), isSameTime(shiftedBy(1)), isSameTime(order)]).toEqual([
      true,
      false,
      false,
    ]);
  });

  it('law: what keeps its second is shifted or stretched from tempo to tempo, exactly', () => {
    const points = fc
      .array(
        fc.tuple(fc.integer({ min: 0, max: 2000 }), fc.integer({ min: 200_000, max: 900_000 })),
        { maxLength: 4 },
      )
      .map((list) =>
        list.map(([atTick, tempo]) => ({ atTick, tempo })).sort((a, b) => a.atTick - b.atTick),
      );
    fc.assert(
      fc.property(points, points, fc.integer({ min: 0, max: 4000 }), (a, b, t) => {
        const [old, now] = [a, b].map((p) => tempoMap(p, { kind: 'ppq', ticksPerQuarter: 96 })) as [
          ReturnType<typeof tempoMap>,
          ReturnType<typeof tempoMap>,
        ];
        const [place, ...more] = placesOf(secondsKept(old, now), t);
        expect(more).toEqual([]);
        expect(place).toBeCloseTo(secondsToExactTicks(now, ticksToSeconds(old, t)), 4);
      }),
      { seed: 63, numRuns: scaleRuns(1000) },
    );
  });

  it('maps of very many pieces go together in the time that their pieces take, not their pairs', () => {
    const many = (length: number, scale: number): TimeMap =>
      Array.from({ length }, (_, n) => ({
        from: n * 10,
        until: (n + 1) * 10,
        to: n * 10 * scale,
        scale,
      }));
    // A shift in each piece, so that nothing joins.
    const compose = (length: number) => {
      const bent = many(length, 1).map((p, n): Piece => ({ ...p, to: p.to + n }));
      return () => expect(placesOf(composed(bent, bent), 5)).toEqual([5]);
    };
    expect(costRatio(compose(10_000), compose(40_000), fourfoldLimit)).toBeLessThan(fourfoldLimit);
  });
});
