import { describe, expect, it } from 'vitest';
import { inParts } from './upload.ts';

const files = (...sizes: number[]): { size: number }[] => sizes.map((size) => ({ size }));

describe('files in parts', () => {
  it('are all there in their order, at most forty and 24 MB together', () => {
    const all = files(...Array.from({ length: 100 }, (_, n) => n * 40_000));
    const parts = inParts(all);
    expect(parts.flat()).toEqual(all);
    for (const part of parts) {
      expect(part.length).toBeLessThanOrEqual(40);
      expect(part.reduce((sum, f) => sum + f.size, 0)).toBeLessThanOrEqual(24_000_000);
    }
  });

  it('a large one goes by itself, and is not split', () => {
    expect(inParts(files(5, 90_000_000, 5, 5)).map((p) => p.length)).toEqual([1, 1, 2]);
    expect(inParts([])).toEqual([]);
  });
});
