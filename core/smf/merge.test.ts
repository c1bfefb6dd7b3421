import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { trackEvents } from '../../tests/support/generate.ts';
import { plainEvents } from '../../tests/support/independent.ts';
import { sameEvents } from './compare.ts';
import { endTick, eventAt, eventValues, META, type Events } from './events.ts';
import { eventsFrom, pickEvents, withInserted, withPayload } from './event-builder.ts';
import { mergeEvents } from './merge.ts';

const body = (events: Events): string[] => plainEvents(events).slice(0, -1);

describe('merging tracks', () => {
  it('keeps every event at its tick, on one tick in the order of the tracks, with one end at the latest of theirs', () => {
    fc.assert(
      fc.property(fc.array(trackEvents, { minLength: 1, maxLength: 7 }), (tracks) => {
        const merged = mergeEvents(tracks);
        const plain = tracks
          .flatMap((events, t) =>
            body(events).map((line, i) => ({ line, tick: events.atTick[i]!, t, i })),
          )
          .sort((a, b) => a.tick - b.tick || a.t - b.t || a.i - b.i);
        expect(body(merged)).toEqual(plain.map((p) => p.line));
        expect(plainEvents(merged).at(-1)).toBe(`${Math.max(...tracks.map(endTick))} ff2f`);
      }),
      { seed: 71, numRuns: scaleRuns(300) },
    );
  });
});

describe('columns', () => {
  it('are built from values and give them back', () => {
    fc.assert(
      fc.property(trackEvents, (events) => sameEvents(eventsFrom(eventValues(events)), events)),
      { seed: 72 },
    );
  });

  it('take a new payload or a new event and leave the others as they are', () => {
    fc.assert(
      fc.property(
        trackEvents,
        fc.nat(),
        fc.uint8Array({ maxLength: 300 }),
        (events, at, payload) => {
          const index = at % events.count;
          const value = {
            atTick: events.atTick[index]!,
            status: META,
            data1: 1,
            data2: 0,
            payload,
          };
          const more = withInserted(events, index, value);
          expect(eventAt(more, index)).toEqual(value);
          expect(plainEvents(more).toSpliced(index, 1)).toEqual(plainEvents(events));
          const changed = withPayload(more, index, Uint8Array.of(1, 2, 3));
          expect(eventAt(changed, index).payload).toEqual(Uint8Array.of(1, 2, 3));
          expect(plainEvents(changed).toSpliced(index, 1)).toEqual(plainEvents(events));
        },
      ),
      { seed: 73, numRuns: scaleRuns(300) },
    );
  });

  it('are picked row by row', () => {
    fc.assert(
      fc.property(trackEvents, (events) => {
        const odd = Array.from({ length: events.count }, (_, i) => i).filter((i) => i % 2 === 1);
        expect(plainEvents(pickEvents(events, odd))).toEqual(
          plainEvents(events).filter((_, i) => i % 2 === 1),
        );
      }),
      { seed: 74 },
    );
  });
});
