import { describe, expect, it } from 'vitest';
import { note, songOf } from '../../tests/support/songs.ts';
import { keySwitchesIn } from './key-switches.ts';

/** As many notes as are said of each key, one after another. */
const found = (...keys: readonly (readonly [key: number, times: number])[]) => {
  const all = keys.flatMap(([key, times]) => Array.from({ length: times }, () => key));
  const { tracks } = songOf(all.flatMap((key, n) => note(n * 10, 5, key)));
  return keySwitchesIn(tracks[0]!.events);
};

/** The limits are common practice, and ours: hand-worked on both sides of each. */
describe('what looks like key switches', () => {
  it('is more than an octave from the music, a gap of 13 keys at least', () => {
    expect(found([36, 1], [49, 9])).toEqual({ lowest: 36, highest: 36, count: 1, end: 'low' });
    expect(found([37, 1], [49, 9])).toBeUndefined();
  });

  it('is at an end of the keyboard: F2 (41) and below, C7 (96) and above', () => {
    expect(found([41, 1], [60, 9])?.end).toBe('low');
    expect(found([42, 1], [60, 9])).toBeUndefined();
    expect(found([60, 9], [96, 1])).toEqual({ lowest: 96, highest: 96, count: 1, end: 'high' });
    expect(found([60, 9], [95, 1])).toBeUndefined();
  });

  it('is a fifth of the notes at most, of eight at least', () => {
    expect(found([24, 1], [25, 1], [60, 8])?.count).toBe(2);
    expect(found([24, 3], [60, 8])).toBeUndefined();
    expect(found([24, 1], [60, 6])).toBeUndefined();
    expect(found([24, 1], [60, 7])?.count).toBe(1);
  });
});
