import { describe, expect, it } from 'vitest';
import { placesOf, shiftedBy, type TimeMap } from '#core/timing/time-map.ts';
import { noteMoves, takeMoves } from './moved.ts';

describe('how time moved since somebody asked', () => {
  it('is counted together for one song, and anew once it was asked', () => {
    noteMoves('a', { song: shiftedBy(384) });
    noteMoves('a', undefined);
    noteMoves('a', { song: shiftedBy(96) });
    expect(takeMoves('b')).toBeUndefined();
    expect(placesOf(takeMoves('a')!.song, 0)).toEqual([480]);
    expect(takeMoves('a')).toBeUndefined();
    noteMoves('a', { song: shiftedBy(1) });
    noteMoves('b', { song: shiftedBy(2) });
    expect(placesOf(takeMoves('b')!.song, 0)).toEqual([2]);
  });

  it('is not followed into more pieces than anybody needs', () => {
    const many: TimeMap = Array.from({ length: 20_000 }, (_, n) => ({
      from: 0,
      until: 1,
      to: n,
      scale: 1,
    }));
    noteMoves('a', { song: many });
    noteMoves('a', { song: many });
    expect(takeMoves('a')).toBeUndefined();
  });
});
