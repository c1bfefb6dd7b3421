import fc from 'fast-check';
import { expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { Limiter } from './limiter.ts';

const rate = 48_000;
const through = (samples: readonly number[], block: number): Float32Array => {
  const limiter = new Limiter(rate);
  const out = Float32Array.from(samples);
  for (let at = 0; at < out.length; at += block) {
    const part = out.subarray(at, at + block);
    limiter.process(part, part.slice());
  }
  return out;
};

it('nothing goes beyond full scale, whatever comes (law)', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          length: fc.integer({ min: 1, max: 900 }),
          amount: fc.double({ min: 0, max: 50, noNaN: true }),
          hertz: fc.double({ min: 0, max: 20_000, noNaN: true }),
        }),
        { minLength: 1, maxLength: 12 },
      ),
      fc.integer({ min: 1, max: 200 }),
      (parts, block) => {
        const samples = parts.flatMap(({ length, amount, hertz }) =>
          Array.from({ length }, (_, n) => amount * Math.cos((2 * Math.PI * hertz * n) / rate)),
        );
        for (const s of through(samples, block)) expect(Math.abs(s)).toBeLessThanOrEqual(0.9701);
      },
    ),
    { seed: 15, numRuns: scaleRuns(100) },
  );
});

it('what stays below passes as it is, later by as much as it looks ahead', () => {
  const limiter = new Limiter(rate);
  const { late } = limiter;
  const samples = Array.from({ length: 4000 }, (_, n) => 0.9 * Math.sin(n / 7));
  const out = through(samples, 128);
  for (let n = late; n < out.length; n++)
    expect(Math.abs(out[n]! - Math.fround(samples[n - late]!))).toBeLessThan(1e-5);
});

it('lets go of a click within a second', () => {
  const samples = Array.from({ length: 2 * rate }, (_, n) => (n === 1000 ? 30 : 0.5));
  const out = through(samples, 128);
  expect(out[1000 + new Limiter(rate).late - 1]).toBeLessThan(0.1);
  expect(out[1000 + rate]).toBeGreaterThan(0.499);
});
