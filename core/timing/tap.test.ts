import { expect, it } from 'vitest';
import { tappedBpm } from './tap.ts';

it('taps give their tempo, a late one counts little, a pause begins anew', () => {
  expect(tappedBpm([0, 0.5, 1, 1.5])).toBeCloseTo(120, 9);
  expect(tappedBpm([10])).toBeUndefined();
  expect(tappedBpm([1, 1])).toBeUndefined();
  // One of nine taps 40 ms late: by the last interval alone it would be 111 BPM.
  expect(Math.abs(tappedBpm([0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4.04])! - 120)).toBeLessThan(1.5);
  expect(tappedBpm([0, 1, 2, 9, 9.5, 10])).toBeCloseTo(120, 9);
});
