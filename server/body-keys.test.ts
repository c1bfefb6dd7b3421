import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../tests/support/scale.ts';
import { countKeys } from './body-keys.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

/** The same by walking what JSON.parse gives: each key once, as it is written by JSON.stringify. */
const keysIn = (value: unknown): number =>
  typeof value !== 'object' || value === null
    ? 0
    : Object.values(value).reduce<number>(
        (sum, inner) => sum + Number(!Array.isArray(value)) + keysIn(inner),
        0,
      );

describe('named values of a body', () => {
  it('are counted outside of texts, escapes or not (by hand)', () => {
    expect(countKeys(bytes('{"a":1,"b":{"c:d":"e:f"}}'))).toBe(3);
    expect(countKeys(bytes('{"\\\\":":","x\\":":[1,2]}'))).toBe(2);
    expect(countKeys(bytes('[1,":",null]'))).toBe(0);
  });

  it('are as many as the value has that is read', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const text = JSON.stringify(value);
        expect(countKeys(bytes(text))).toBe(keysIn(JSON.parse(text)));
      }),
      { seed: 35, numRuns: scaleRuns(500) },
    );
  });
});
