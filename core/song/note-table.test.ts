import fc from 'fast-check';
import { expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { trackEvents } from '../../tests/support/generate.ts';
import { note, songOf } from '../../tests/support/songs.ts';
import { noteTable, notesBetween } from './note-table.ts';
import { notesOf } from './notes.ts';

it('holds every note of every track in the order they begin', () => {
  const { tracks } = songOf(
    [...note(0, 10, 60, 11), ...note(30, 5, 62, 12)],
    [...note(20, 100, 64, 13)],
  );
  const table = noteTable(tracks.map((t) => t.events));
  expect([...table.from]).toEqual([0, 20, 30]);
  expect([...table.to]).toEqual([10, 120, 35]);
  expect([...table.key]).toEqual([60, 64, 62]);
  expect([...table.velocity]).toEqual([11, 13, 12]);
  expect([...table.track]).toEqual([0, 1, 0]);
  expect([...table.reach]).toEqual([10, 120, 120]);
});

it('finds every note that sounds in a span, however long it has sounded (all notes tried)', () => {
  fc.assert(
    fc.property(
      fc.array(trackEvents, { minLength: 1, maxLength: 3 }),
      fc.nat(2000),
      fc.nat(2000),
      (tracks, a, b) => {
        const table = noteTable(tracks);
        expect(table.count).toBe(tracks.reduce((n, t) => n + notesOf(t).count, 0));
        const [from, to] = [Math.min(a, b), Math.max(a, b) + 1];
        const { first, end } = notesBetween(table, from, to);
        for (let n = 0; n < table.count; n++)
          if (table.from[n]! < to && table.to[n]! > from) expect(n >= first && n < end).toBe(true);
      },
    ),
    { seed: 51, numRuns: scaleRuns(200) },
  );
});
