import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { plainEvents } from '../../tests/support/independent.ts';
import { trackEvents } from '../../tests/support/generate.ts';
import { mergeEvents } from '../smf/merge.ts';
import { pickEvents } from '../smf/event-builder.ts';
import type { Events } from '../smf/events.ts';
import { difference } from './difference.ts';

const sum = (counts: Readonly<Record<string, number>>): number =>
  Object.values(counts).reduce((a, b) => a + b, 0);

/** The plain way: every event as a text, each counted as often as it stands. */
function plainly(before: Events, after: Events): { added: number; removed: number } {
  const balance = new Map<string, number>();
  for (const e of plainEvents(after)) balance.set(e, (balance.get(e) ?? 0) + 1);
  for (const e of plainEvents(before)) balance.set(e, (balance.get(e) ?? 0) - 1);
  const values = [...balance.values()];
  return {
    added: values.filter((n) => n > 0).reduce((a, b) => a + b, 0),
    removed: values.filter((n) => n < 0).reduce((a, b) => a - b, 0),
  };
}

describe('issue 9.1: what changed between two tracks, compared by columns', () => {
  it('counts as comparing every event as a text does, for tracks that share most of their events and for strangers', () => {
    fc.assert(
      fc.property(trackEvents, trackEvents, fc.integer({ min: 1, max: 5 }), (a, b, every) => {
        const some = pickEvents(
          a,
          [...Array(a.count).keys()].filter((i) => i % every === 0 || i === a.count - 1),
        );
        for (const [before, after] of [
          [a, b],
          [a, some],
          [some, mergeEvents([some, b])],
          [mergeEvents([a, b]), a],
        ] as const) {
          const { added, removed } = difference(before, after);
          expect({ added: sum(added), removed: sum(removed) }).toEqual(plainly(before, after));
        }
      }),
      { seed: 91, numRuns: scaleRuns(400) },
    );
  });

  it('names kinds, and passes over an order that changed on one tick', () => {
    const a = fc.sample(trackEvents, { seed: 3, numRuns: 1 })[0]!;
    const last = a.count - 1;
    const order = [...Array(last).keys()].sort((x, y) => a.atTick[x]! - a.atTick[y]! || y - x);
    expect(difference(a, pickEvents(a, [...order, last]))).toEqual({ added: {}, removed: {} });
    expect(sum(difference(a, pickEvents(a, [last])).removed)).toBe(last);
  });
});
