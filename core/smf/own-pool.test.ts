import fc from 'fast-check';
import { expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { plainEvents } from '../../tests/support/independent.ts';
import { trackEvents } from '../../tests/support/generate.ts';
import { pickEvents, withOwnPool, withPayloads } from './event-builder.ts';
import { payloadOf } from './events.ts';

it('a pool brought down to what is used says the same events, in no more bytes than they have', () => {
  fc.assert(
    fc.property(trackEvents, fc.integer({ min: 2, max: 6 }), (events, every) => {
      const part = pickEvents(
        events,
        [...Array(events.count).keys()].filter((i) => i % every === 0),
      );
      const own = withOwnPool(part);
      expect(plainEvents(own)).toEqual(plainEvents(part));
      const used = Array.from({ length: own.count }, (_, i) => payloadOf(own, i).length).reduce(
        (a, b) => a + b,
        0,
      );
      expect(own.pool.bytes.length).toBeLessThanOrEqual(used * 2 + 64);
    }),
    { seed: 98, numRuns: scaleRuns(200) },
  );
});

it('many payloads are replaced at once as they are one by one', () => {
  const [events] = fc.sample(trackEvents, { seed: 7, numRuns: 1 });
  const rows = [0, 2, 5].filter((row) => row < events!.count);
  const bytes = Uint8Array.of(1, 2, 3);
  const oneByOne = rows.reduce((e, row) => withPayloads(e, [row], bytes), events!);
  expect(plainEvents(withPayloads(events!, rows, bytes))).toEqual(plainEvents(oneByOne));
  expect(withPayloads(events!, [], bytes)).toBe(events);
});
