import { describe, expect, it } from 'vitest';
import { meterMap } from '#core/timing/meter-map.ts';
import { copied, emptying, moving, typedIn, unreadable, writing, type ShownLine } from './line.ts';

/** 480 PPQ in 4/4: a bar is 1920 ticks. */
const meters = meterMap([], { kind: 'ppq', ticksPerQuarter: 480 });
const line: ShownLine = {
  sent: false,
  points: [
    { atTick: 0, text: 'C', travels: false },
    { atTick: 1920, text: 'Dm7', travels: false },
    { atTick: 2880, text: 'G7/B', travels: false },
    { atTick: 5760, text: 'F', travels: false },
  ],
};

describe('the chord line as it is shown and typed', () => {
  it('a bar says what begins in it; what goes on is said where it is copied', () => {
    expect([1, 2, 3, 4].map((bar) => typedIn(line, meters, bar))).toEqual([
      'C',
      'Dm7 G7/B',
      '',
      'F',
    ]);
    expect(copied(line, meters, 2, 4)).toBe('Dm7 G7/B | % | F');
    expect(copied(line, meters, 3, 4)).toBe('G7/B | F');
  });

  it('what is typed is written as it is kept; nothing typed takes the chords of the bar out', () => {
    expect(writing(line, 3, 'Am | G')).toEqual({
      operation: 'chords.set',
      settings: { typed: 'Am | G', sent: false },
      scope: { tracks: 'all', bars: { from: 3, to: 3 } },
    });
    expect(writing(line, 2, ' ')).toEqual(emptying(2, 2));
    expect(unreadable('C . % | Dm7/G N.C.')).toBeUndefined();
    expect(unreadable('C Hx')).toBe('Hx');
  });

  it('bars are moved in one step: what was there goes, what lies between stays', () => {
    const points = (from: number, to: number, at: number): string => {
      const its = moving(line, meters, { from, to }, at).settings as {
        points: { atTick: number; chord: string }[];
      };
      return its.points.map((p) => `${p.chord}@${p.atTick / 1920}`).join(' ');
    };
    // Bars 2 to 4 are written: the C before them is none of it.
    expect(points(2, 2, 4)).toBe('Dm7@3 G7/B@3.5');
    // A bar with nothing in it takes along what goes on in it.
    expect(points(3, 3, 1)).toBe('G7/B@0 Dm7@1 G7/B@1.5');
  });
});
