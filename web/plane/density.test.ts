import { expect, it } from 'vitest';
import { noteTable } from '#core/song/note-table.ts';
import { note, songOf } from '../../tests/support/songs.ts';
import { densityOf, levelFor } from './density.ts';

const table = noteTable(
  songOf([
    ...note(0, 512, 60, 50),
    ...note(1024, 1, 60, 90),
    ...note(65_535, 1, 61, 20),
  ]).tracks.map((t) => t.events),
);
const density = densityOf(table, 65_536);

it('every level has the loudest of what sounds in each cell', () => {
  density.levels.forEach((level, n) => {
    const cells = density.cells >> n;
    const ticks = 65_536 / cells;
    expect(level[60 * cells]).toBe(50);
    expect(level[60 * cells + Math.floor(1024 / ticks)]).toBe(90);
    expect(level[61 * cells + cells - 1]).toBe(20);
    expect(level[62 * cells]).toBe(0);
  });
});

it('the level chosen has cells no wider than a column', () => {
  expect(levelFor(density, 1).cells).toBe(65_536);
  expect(levelFor(density, 60).cells).toBe(2048);
  expect(levelFor(density, 64).cells).toBe(1024);
  expect(levelFor(density, 1e9).cells).toBe(512);
});
