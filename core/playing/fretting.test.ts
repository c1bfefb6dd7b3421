import { describe, expect, it } from 'vitest';
import { fretting, onOwnString, tuningOf } from './fretting.ts';

const guitar = tuningOf(24)!;
/** As chord charts have it, from the lowest string: x for one that is not played. */
const chart = (...keys: number[]): string => {
  const stopped = fretting(keys, guitar);
  return [5, 4, 3, 2, 1, 0]
    .map((string) => String(stopped.find((s) => s.string === string)?.fret ?? 'x'))
    .join(' ');
};

describe('where keys are stopped', () => {
  it('the open chords that every guitarist plays first (common practice)', () => {
    // E major, A minor, C major, D major, G major.
    expect(chart(40, 47, 52, 56, 59, 64)).toBe('0 2 2 1 0 0');
    expect(chart(45, 52, 57, 60, 64)).toBe('x 0 2 2 1 0');
    expect(chart(48, 52, 55, 60, 64)).toBe('x 3 2 0 1 0');
    expect(chart(50, 57, 62, 66)).toBe('x x 0 2 3 2');
    expect(chart(43, 47, 50, 55, 59, 67)).toBe('3 2 0 0 0 3');
  });

  it('a barred F within the hand, and a high note where its string reaches it', () => {
    expect(chart(41, 48, 53, 57, 60, 65)).toBe('1 3 3 2 1 1');
    expect(chart(88)).toBe('x x x x x 24');
  });

  it('what finds no string is left out: keys below the lowest, and more than there are strings', () => {
    expect(fretting([20], guitar)).toEqual([]);
    expect(fretting([40, 41], guitar)).toHaveLength(1);
    expect(fretting([40, 45, 50, 55, 59, 64, 66, 67], guitar)).toHaveLength(6);
  });

  it('where channels are strings, each is stopped on its own', () => {
    // B4 on the second channel: the B string at the twelfth fret.
    expect(onOwnString(71, 1, [0, 1, 2, 3, 4, 5], guitar)).toEqual({
      key: 71,
      string: 1,
      fret: 12,
    });
    expect(onOwnString(50, 1, [0, 1, 2, 3, 4, 5], guitar)).toBeUndefined();
    expect(onOwnString(71, 9, [0, 1, 2, 3, 4, 5], guitar)).toBeUndefined();
  });
});
