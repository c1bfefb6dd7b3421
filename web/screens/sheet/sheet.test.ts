import { describe, expect, it } from 'vitest';
import { trackView } from '../../../tests/support/views.ts';
import { isFlat } from '../../drawing/glyphs.ts';
import { dropped } from './dropped.ts';
import { isFlood, lanesOf } from './lanes.ts';
import { sorted } from './sorting.ts';

const controllers = (...numbers: number[]) =>
  numbers.map((controller) => ({ controller, name: `c${controller}`, count: 5 }));

describe('columns of the sheet', () => {
  it('are the kinds of message that occur, programs and the like first, then controllers by number', () => {
    const tracks = [
      trackView({ controllers: controllers(11, 7) }),
      trackView({ counts: { ...trackView().counts, programChanges: 1, pitchBend: 3 } }),
    ];
    expect(lanesOf(tracks, 10, 20).map((l) => l.name)).toEqual([
      'Program',
      'Pitch bend',
      'c7',
      'c11',
    ]);
    expect(lanesOf(tracks, 10, 20).map((l) => tracks.map((t) => l.countIn(t)))).toEqual([
      [0, 1],
      [0, 3],
      [5, 0],
      [5, 0],
    ]);
  });

  it('share the last place where there are too many, floods and those of many tracks kept', () => {
    const flooded = { controller: 2, name: 'c2', count: 9000 };
    const tracks = [
      trackView({ controllers: [...controllers(7, 20, 21, 22), flooded] }),
      trackView({ controllers: controllers(7) }),
    ];
    const lanes = lanesOf(tracks, 38, 3);
    expect(lanes.map((l) => l.name)).toEqual(['c2', 'c7', '3 others']);
    expect(lanes[2]!.countIn(tracks[0]!)).toBe(15);
  });

  it('tell a flood from many events over many bars', () => {
    expect([isFlood(9000, 38), isFlood(9000, 400), isFlood(190, 1)]).toEqual([true, false, false]);
  });
});

describe('the order of the rows', () => {
  const tracks = [
    trackView({ id: 'a', name: 'Violin', notes: 3, channels: [4] }),
    trackView({ id: 'b', name: 'accordion', notes: 9, channels: [2] }),
    trackView({ id: 'c', name: 'Marimba', notes: 1 }),
  ];
  const order = (by: 'place' | 'name' | 'notes' | 'channel', down = true): string =>
    sorted(tracks, { by, down })
      .map((t) => t.id)
      .join('');

  it('is the song’s own unless asked, and the song stays as it is', () => {
    expect([
      order('place'),
      order('place', false),
      order('name'),
      order('notes'),
      order('notes', false),
      order('channel'),
    ]).toEqual(['abc', 'cba', 'bca', 'cab', 'bac', 'bac']);
    expect(tracks.map((t) => t.id).join('')).toBe('abc');
  });
});

describe('a flat part', () => {
  const velocity = { lowest: 64, highest: 64, mean: 64, distinct: 1, bins: [] };
  it('has one velocity on enough notes to tell', () => {
    expect([
      isFlat(trackView({ velocity, notes: 38 })),
      isFlat(trackView({ velocity, notes: 2 })),
      isFlat(trackView({ velocity: { ...velocity, distinct: 2 }, notes: 38 })),
    ]).toEqual([true, false, false]);
  });
});

describe('tracks that are dropped on another', () => {
  const song = (mapTrack: boolean) => ({
    mapTrack,
    tracks: ['a', 'b', 'c', 'd', 'e'].map((id) => ({ id })),
  });
  const none = new Set<string>();

  it('stand behind it when they come from above, before it when from below', () => {
    expect(dropped(song(false), none, 'a', 'c')).toEqual({ ids: ['a'], before: 'd' });
    expect(dropped(song(false), none, 'd', 'b')).toEqual({ ids: ['d'], before: 'b' });
    expect(dropped(song(false), none, 'b', 'e')).toEqual({ ids: ['b'], before: null });
  });

  it('are all that are selected, if the dragged one is; the place is never one of theirs', () => {
    expect(dropped(song(false), new Set(['b', 'd']), 'b', 'c')).toEqual({
      ids: ['b', 'd'],
      before: 'e',
    });
    expect(dropped(song(false), new Set(['b']), 'd', 'a')).toEqual({ ids: ['d'], before: 'a' });
  });

  it('never come before the song’s map, which stays where it is', () => {
    expect(dropped(song(true), none, 'c', 'a')).toEqual({ ids: ['c'], before: 'b' });
    expect(dropped(song(true), new Set(['a', 'c']), 'c', 'e').ids).toEqual(['c']);
  });
});
