import fc from 'fast-check';
import { expect, it } from 'vitest';
import { costRatio, fourfoldLimit } from '../../tests/support/cost.ts';
import { scaleRuns } from '../../tests/support/scale.ts';
import { plainEvents } from '../../tests/support/independent.ts';
import { eventsFrom } from '../smf/event-builder.ts';
import { channelEvent } from '../smf/events.ts';
import { sortedByTick } from './retime.ts';

const made = (count: number) =>
  eventsFrom(Array.from({ length: count }, (_, i) => channelEvent(i * 10, 0xb0, i & 127, i >> 7)));

/** The slow plain way: all rows by tick, rank and place. */
function plainly(count: number, ticks: readonly number[], ranks: readonly number[]): string[] {
  const order = Array.from({ length: count }, (_, i) => i).sort(
    (a, b) => ticks[a]! - ticks[b]! || ranks[a]! - ranks[b]! || a - b,
  );
  return order.map(
    (i) =>
      `${ticks[i]} b0${(i & 127).toString(16).padStart(2, '0')}${(i >> 7).toString(16).padStart(2, '0')}`,
  );
}

function both(
  count: number,
  ticks: readonly number[],
  ranks: readonly number[],
): [string[], string[]] {
  const events = made(count);
  const atTick = Float64Array.from([...ticks, events.atTick[count]!]);
  const sorted = sortedByTick(events, atTick, Int8Array.from([...ranks, 0]));
  return [plainEvents(sorted).slice(0, -1), plainly(count, ticks, ranks)];
}

it('rows at new ticks stand as the slow plain sort puts them, however far they move', () => {
  fc.assert(
    fc.property(
      fc
        .integer({ min: 1, max: 200 })
        .chain((n) =>
          fc.tuple(
            fc.constant(n),
            fc.array(fc.nat(2000), { minLength: n, maxLength: n }),
            fc.array(fc.constantFrom(-1, 0, 1), { minLength: n, maxLength: n }),
          ),
        ),
      ([n, ticks, ranks]) => {
        const [ours, plain] = both(n, ticks, ranks);
        expect(ours).toEqual(plain);
      },
    ),
    { seed: 111, numRuns: scaleRuns(300) },
  );
});

it('many rows turned around are sorted, and not inserted one by one', () => {
  const turned = (n: number) => {
    const events = made(n);
    const ticks = Float64Array.from({ length: n }, (_, i) => (n - i) * 3);
    return () => sortedByTick(events, ticks, new Int8Array(n));
  };
  const [ours, plain] = both(
    2000,
    Array.from({ length: 2000 }, (_, i) => (2000 - i) * 3),
    new Array<number>(2000).fill(0),
  );
  expect(ours).toEqual(plain);
  expect(costRatio(turned(20_000), turned(80_000), fourfoldLimit)).toBeLessThan(fourfoldLimit);
});
