import { expect, it } from 'vitest';
import { noteTable } from '#core/song/note-table.ts';
import { note, songOf } from '../../../tests/support/songs.ts';
import { Plane } from '../../plane/plane.ts';
import { noteAt, notesIn } from './hit.ts';

const table = noteTable(
  songOf(
    [...note(0, 100, 60), ...note(100, 400, 60), ...note(50, 10, 64)],
    note(100, 50, 60),
  ).tracks.map((t) => t.events),
);
const plane = new Plane(1000);
plane.resize(1000, 400);
plane.show(0, 1000, 55, 70);

it('finds the note under the pointer, and its end', () => {
  expect(noteAt(table, plane, 40, plane.y(60), 0)).toEqual({ note: 0, part: 'body' });
  expect(noteAt(table, plane, 497, plane.y(60), 0)?.part).toBe('end');
  expect(noteAt(table, plane, 40, plane.y(61), 0)).toBeUndefined();
});

it('prefers the track in focus', () => {
  const of = (focus: number) => table.track[noteAt(table, plane, 120, plane.y(60), focus)!.note];
  expect([of(0), of(1)]).toEqual([0, 1]);
});

it('finds what a rectangle touches', () => {
  expect(
    notesIn(table, plane, {
      x: 40,
      y: plane.y(66),
      width: 30,
      height: plane.y(60) - plane.y(66),
    }).map((n) => table.key[n]),
  ).toEqual([60, 64]);
});
