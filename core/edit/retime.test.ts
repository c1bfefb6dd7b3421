import fc from 'fast-check';
import { expect, it } from 'vitest';
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
    { seed: 111, numRuns: 300 },
  );
});

it('many rows turned around are sorted, and not inserted one by one', () => {
  const n = 20_000;
  const began = performance.now();
  const [ours, plain] = both(
    n,
    Array.from({ length: n }, (_, i) => (n - i) * 3),
    new Array<number>(n).fill(0),
  );
  expect(ours).toEqual(plain);
  expect(performance.now() - began).toBeLessThan(2000);
});
