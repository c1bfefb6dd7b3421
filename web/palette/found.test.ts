import { describe, expect, it } from 'vitest';
import { foundIn, type ChoiceGroup } from './found.ts';

const group = (heading: string, ...titles: string[]): ChoiceGroup => ({
  heading,
  list: titles.map((title) => ({ key: title, words: title, title, take: () => undefined })),
});
const groups = [
  group('Lately'),
  group('Here', 'Undo: transpose', 'Notes', 'Hand off'),
  group('Steps', 'Transpose', 'Delete notes'),
];
const shown = (typed: string): string[] =>
  foundIn(groups, typed).groups.map(({ heading, list }) =>
    [heading, ...list.map((c) => c.title)].join(' | '),
  );

describe('what answers in the list of commands', () => {
  it('is all of it in its order while nothing is typed, but for groups without any', () => {
    expect(shown('')).toEqual([
      'Here | Undo: transpose | Notes | Hand off',
      'Steps | Transpose | Delete notes',
    ]);
  });

  it('has the group with the best first, and the best of each first', () => {
    expect(shown('transpose')).toEqual(['Steps | Transpose', 'Here | Undo: transpose']);
    expect(shown('notes')).toEqual(['Here | Notes', 'Steps | Delete notes']);
  });

  it('is surely meant where words begin with it, not where letters lie scattered', () => {
    expect(foundIn(groups, 'trans').sure).toBe(true);
    expect(foundIn(groups, 'hndf')).toMatchObject({ sure: false, groups: [{ heading: 'Here' }] });
    // U, n, d and o stand in "running order" as well, far apart.
    expect(foundIn([group('Here', 'Nudge notes in time')], 'undo').groups).toEqual([]);
  });

  it('is nothing where nothing answers', () => {
    expect(shown('xylophone quartet')).toEqual([]);
  });
});
