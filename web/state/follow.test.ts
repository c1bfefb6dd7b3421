import { beforeEach, describe, expect, it } from 'vitest';
import type { SongView } from '#contracts/songs.ts';
import { shiftedBy, type TimeMap } from '#core/timing/time-map.ts';
import { followMoves } from './follow.ts';
import { usePlace } from './place.ts';
import { useScope } from './scope.ts';

/** 96 PPQ: bars of 384 ticks, or of 288 in a waltz. */
const song = (...meters: [number, number][]) =>
  ({
    id: 's',
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    timing: {
      meters: meters.map(([atTick, numerator]) => ({ atTick, numerator, denominator: 4 })),
    },
  }) as unknown as SongView;
const plain = song([0, 4]);

beforeEach(() => {
  useScope.getState().open('s');
  useScope.getState().span({ from: 2, to: 3 });
  usePlace.getState().set('s', 400);
});
const now = () => [useScope.getState().bars, usePlace.getState().tick];

describe('what points at places follows them', () => {
  it('behind a bar that was put before the music, and back', () => {
    followMoves(plain, plain, { song: shiftedBy(384) });
    expect(now()).toEqual([{ from: 3, to: 4 }, 784]);
    followMoves(plain, plain, { song: shiftedBy(-384) });
    expect(now()).toEqual([{ from: 2, to: 3 }, 400]);
  });

  it('to the bars that have other numbers by another meter, though nothing moved', () => {
    // Ticks 384 to 1152 are from bar 2 into bar 4 of a waltz.
    followMoves(plain, song([0, 3]), undefined);
    expect(now()).toEqual([{ from: 2, to: 4 }, 400]);
  });

  it('bars that are gone are no longer selected, and a pressed place stays; of another song nothing is touched', () => {
    const cut: TimeMap = [
      { from: 0, until: 384, to: 0, scale: 1 },
      { from: 1152, until: null, to: 384, scale: 1 },
    ];
    followMoves({ ...plain, id: 'other' }, { ...plain, id: 'other' }, { song: cut });
    expect(now()).toEqual([{ from: 2, to: 3 }, 400]);
    followMoves(plain, plain, { song: cut });
    expect(now()).toEqual([undefined, 400]);
  });
});
