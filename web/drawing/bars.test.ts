import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { timingView } from '../../tests/support/views.ts';
import { stripScale, strapAt, strapRows, strapsOf, stripHeight } from './bars.ts';

describe('places on the bar strip', () => {
  it('give every bar the same room, whatever its length in ticks', () => {
    // Two bars of 4/4 at 480 PPQ, then one of 3/4: ticks 0, 1920, 3840, ending at 5280.
    const scale = stripScale(timingView(3, 0, { cellTicks: [0, 1920, 3840, 5280] }));
    expect(
      [0, 960, 1920, 3840, 4560, 5280].map((t) => Math.round(scale.at(t) * 3 * 1000) / 1000),
    ).toEqual([0, 0.5, 1, 2, 2.5, 3]);
    expect([scale.bar(1), scale.bar(2), scale.bar(3)].map((x) => Math.round(x * 300))).toEqual([
      0, 100, 200,
    ]);
    expect(scale.tickAt(2.5 / 3)).toBe(4560);
  });

  it('lead back to the tick they came from', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 400 }),
        fc.integer({ min: 100, max: 4000 }),
        fc.float({ min: 0, max: Math.fround(0.999), noNaN: true }),
        (bars, barTicks, part) => {
          const scale = stripScale(timingView(bars, barTicks));
          const tick = Math.floor(part * bars * barTicks);
          expect(Math.abs(scale.tickAt(scale.at(tick)) - tick)).toBeLessThanOrEqual(1);
        },
      ),
      { seed: 61 },
    );
  });

  it('go through a last cell of fewer bars at the pace of the others, to the end', () => {
    // Five bars of 400 ticks, two a cell: the song ends in the middle of the last cell.
    const scale = stripScale({
      ...timingView(5, 0, { cellTicks: [0, 800, 1600, 2400] }),
      barsPerCell: 2,
    });
    expect([1600, 1800, 2000].map((t) => Math.round(scale.at(t) * 100))).toEqual([80, 90, 100]);
    expect([scale.tickAt(0.9), scale.tickAt(1), scale.at(2300)]).toEqual([1800, 2000, 1]);
  });

  it('stay within the strip for ticks behind the end', () => {
    expect(stripScale(timingView(4, 100)).at(100_000)).toBe(1);
  });
});

describe('straps for sections', () => {
  const section = (name: string, fromTick: number, toTick: number) => ({
    name,
    fromTick,
    toTick,
    from: '',
    to: '',
    track: 't1',
    travels: true,
    anchor: 'bars' as const,
  });

  it('stand in one row unless they overlap, and are found where they are', () => {
    const straps = strapsOf([section('A', 0, 400), section('B', 200, 600), section('C', 400, 800)]);
    expect(straps.map((s) => [s.name, s.row])).toEqual([
      ['A', 0],
      ['B', 1],
      ['C', 0],
    ]);
    expect(stripHeight(straps) - stripHeight([])).toBe(
      2 * (stripHeight(strapsOf([section('A', 0, 1)])) - stripHeight([])),
    );
    const scale = stripScale(timingView(8, 100));
    expect(strapAt(straps, scale, 0.3, 18 + 20)?.name).toBe('B');
    expect(strapAt(straps, scale, 0.3, 18 + 4)?.name).toBe('A');
    expect(strapAt(straps, scale, 0.55, 18 + 4)?.name).toBe('C');
    expect(strapAt(straps, scale, 0.9, 18 + 20)).toBeUndefined();
  });

  it('of one row never overlap as long as there are rows', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 500 }), fc.integer({ min: 1, max: 120 })), {
          maxLength: 20,
        }),
        (spans) => {
          const sorted = spans
            .map(([from, length], i) => section(String(i), from, from + length))
            .sort((a, b) => a.fromTick - b.fromTick);
          const straps = strapsOf(sorted);
          expect(strapRows(straps)).toBeLessThanOrEqual(3);
          for (const row of [0, 1]) {
            const its = straps.filter((s) => s.row === row);
            its.forEach((s, i) =>
              expect(its[i + 1]?.fromTick ?? Infinity).toBeGreaterThanOrEqual(s.toTick),
            );
          }
        },
      ),
      { seed: 62 },
    );
  });
});
