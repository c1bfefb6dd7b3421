import { describe, expect, it } from 'vitest';
import { runAt } from './runs.ts';

describe('a run on a track’s strip', () => {
  it('is the bars around the pointer in which the track plays (hand-worked)', () => {
    const activity = [0, 3, 1, 2, 0, 0, 5, 0];
    expect(runAt(activity, 0.3, 8)).toEqual({ from: 2, to: 4 });
    expect(runAt(activity, 0.8, 8)).toEqual({ from: 7, to: 7 });
    expect(runAt(activity, 0.05, 8)).toBeUndefined();
    // Two bars a cell, and a song of fifteen bars.
    expect(runAt(activity, 0.3, 15)).toEqual({ from: 3, to: 8 });
    expect(runAt([1], 1, 3)).toEqual({ from: 1, to: 3 });
  });
});
