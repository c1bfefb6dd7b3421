import { expect, it } from 'vitest';
import type { TrackView } from '#contracts/songs.ts';
import type { Lane } from '#core/song/lanes.ts';
import { eventsFrom } from '#core/smf/event-builder.ts';
import { isStill, laneGroups, laneOf } from './lane-groups.ts';

const lane = (what: Lane['what'], ...values: number[]): Lane => ({
  channel: 0,
  what,
  rows: values.map((_, n) => n),
  values,
});
const track = (id: string): TrackView => ({ id, name: id }) as TrackView;
const lanes = [
  laneOf(track('Oboe'), 'Oboe', eventsFrom([]), lane(11, 1, 2)),
  laneOf(track('Oboe'), 'Oboe', eventsFrom([]), lane('bend', 8192)),
  laneOf(track('Viola'), 'Viola', eventsFrom([]), lane(7, 100)),
  laneOf(track('Viola'), 'Viola', eventsFrom([]), lane(11, 5)),
];

it('stand together by track, or by controller in the order of their numbers', () => {
  const told = (by: 'track' | 'controller'): unknown =>
    laneGroups(lanes, by).map((g) => [g.title, g.lanes.map((l) => `${l.part} ${l.lane.what}`)]);
  expect(told('track')).toEqual([
    ['Oboe', ['Oboe 11', 'Oboe bend']],
    ['Viola', ['Viola 7', 'Viola 11']],
  ]);
  expect(told('controller')).toEqual([
    ['7 volume', ['Viola 7']],
    ['11 expression', ['Oboe 11', 'Viola 11']],
    ['pitch bend', ['Oboe bend']],
  ]);
});

it('are still where no value differs', () => {
  expect([lane(7, 100), lane(7, 100, 100), lane(7), lane(7, 1, 2)].map(isStill)).toEqual([
    true,
    true,
    true,
    false,
  ]);
});
