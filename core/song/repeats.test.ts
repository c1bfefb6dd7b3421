import { describe, expect, it } from 'vitest';
import { note, songOf } from '../../tests/support/songs.ts';
import { meterMap } from '../timing/meter-map.ts';
import { proposedSections } from './repeats.ts';

describe('sections told from what repeats', () => {
  const phrase = (at: number, keys: readonly number[]) =>
    keys.flatMap((key, n) => note(at * 1536 + n * 384, 96, key));
  const song = songOf([
    ...phrase(0, [60, 62, 64, 65]),
    ...phrase(1, [70, 72, 74, 76]),
    ...phrase(2, [60, 62, 64, 65]),
    // One of its four notes is another.
    ...phrase(3, [70, 72, 74, 77]),
  ]);

  it('gives what is alike one letter, with how sure (hand-worked)', () => {
    const found = proposedSections(
      song.tracks.map((t) => t.events),
      meterMap([], song.division),
      16,
    );
    expect(
      found.map(({ name, from, to, sure }) => [name, from, to, Math.round(sure * 100)]),
    ).toEqual([
      ['A', 1, 4, 100],
      ['B', 5, 8, 100],
      ['A', 9, 12, 100],
      // Three notes of both, of five of either.
      ['B', 13, 16, 60],
    ]);
  });

  it('of a song without notes it is one after the other', () => {
    const found = proposedSections([], meterMap([], song.division), 6);
    expect(found.map(({ name, from, to }) => [name, from, to])).toEqual([
      ['A', 1, 4],
      ['A', 5, 6],
    ]);
  });
});
