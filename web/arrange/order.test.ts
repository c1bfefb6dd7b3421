import { describe, expect, it } from 'vitest';
import type { SongView } from '#contracts/songs.ts';
import { mapsOf } from '#core/song/maps.ts';
import {
  joinsOf,
  leftOut,
  lengthOf,
  moved,
  orderAsked,
  orderOf,
  repeated,
  sameOrder,
  startsOf,
  without,
  type Order,
} from './order.ts';

/** 96 PPQ, 4/4 at 120 BPM: bars of 384 ticks. Sections are given by their ticks, all worked out by hand. */
function songWith(
  sections: [string, number, number][],
  markers: [string, number][] = [],
  keys: { atTick: number; sharps: number; minor: boolean }[] = [],
): SongView {
  return {
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    timing: {
      bars: 8,
      tempos: [{ atTick: 0, microsecondsPerQuarter: 500_000 }],
      meters: [{ atTick: 0, numerator: 4, denominator: 4 }],
      keys,
      markers: markers.map(([text, atTick]) => ({ text, atTick })),
      sections: sections.map(([name, fromTick, toTick]) => ({ name, fromTick, toTick })),
    },
  } as unknown as SongView;
}
const spans = (song: SongView): string[] =>
  orderOf(song, mapsOf(song), []).order.map((s) => `${s.name} ${s.from}-${s.to}`);

describe('the spans of a song', () => {
  it('are its sections and what lies between them', () => {
    expect(
      spans(
        songWith([
          ['A', 384, 1152],
          ['B', 1536, 2304],
        ]),
      ),
    ).toEqual([' 1-1', 'A 2-3', ' 4-4', 'B 5-6', ' 7-8']);
  });

  it('begin at the bar line that a mark stands a little before or behind', () => {
    // A sixteenth is 24 ticks.
    expect(
      spans(
        songWith([
          ['A', 381, 1155],
          ['B', 1155, 1530],
        ]),
      ),
    ).toEqual([' 1-1', 'A 2-3', 'B 4-4', ' 5-8']);
    expect(
      spans(
        songWith(
          [],
          [
            ['A', 0],
            ['B', 765],
            ['C', 1540],
          ],
        ),
      ),
    ).toEqual(['A 1-2', 'B 3-4', 'C 5-8']);
  });

  it('of sections over each other: one within another is part of it, of one that goes on the rest', () => {
    expect(
      spans(
        songWith([
          ['A', 0, 1536],
          ['In', 384, 768],
          ['B', 1152, 2304],
        ]),
      ),
    ).toEqual(['A 1-4', 'B 5-6', ' 7-8']);
  });

  it('are one where nothing says more', () => {
    expect(spans(songWith([]))).toEqual([' 1-8']);
  });
});

describe('an order', () => {
  const song = songWith(
    [
      ['A', 0, 768],
      ['B', 768, 1536],
      ['C', 1536, 3072],
    ],
    [],
    [
      { atTick: 0, sharps: 0, minor: false },
      { atTick: 1536, sharps: 2, minor: false },
    ],
  );
  const maps = mapsOf(song);
  const { order } = orderOf(song, maps, []);
  const names = (o: Order): string => o.map((s) => s.name).join('');

  it('is moved, repeated and left out, and stays within its ends', () => {
    expect(names(moved(order, 's2', -2))).toBe('CAB');
    expect(moved(order, 's0', -1)).toBe(order);
    expect(moved(order, 'none', 1)).toBe(order);
    const twice = repeated(repeated(order, 's1'), 's1');
    expect(names(twice)).toBe('ABBBC');
    expect(new Set(twice.map((s) => s.id)).size).toBe(5);
    expect(names(without(order, 's1'))).toBe('AC');
    expect(names(leftOut(order, without(order, 's1')))).toBe('B');
    expect(sameOrder(order, moved(moved(order, 's0', 1), 's0', -1))).toBe(true);
  });

  it('is asked for by its bars, neighbours that go on as one', () => {
    const next = moved(order, 's2', -2);
    expect(orderAsked(next)).toEqual([
      { from: 5, to: 8 },
      { from: 1, to: 4 },
    ]);
    expect([lengthOf(next), startsOf(next)]).toEqual([8, [1, 5, 7]]);
  });

  it('says what changes where spans meet that did not before', () => {
    expect(joinsOf(order, song, maps)).toEqual([]);
    expect(joinsOf(moved(order, 's2', -2), song, maps)).toEqual([
      { bar: 5, says: 'D major → C major' },
    ]);
  });
});
