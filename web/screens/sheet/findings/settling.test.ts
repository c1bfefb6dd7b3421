import { expect, it } from 'vitest';
import type { FindingView } from '#contracts/findings.ts';
import { together } from './settling.ts';

const nameless = (track: string, name: string): FindingView => ({
  rule: 'unnamed',
  heading: 'Parts without a name',
  key: `unnamed ${track}`,
  title: 'A part has no name',
  why: '',
  tracks: [track],
  count: 1,
  sure: 'certain',
  leftAlone: false,
  settle: [
    {
      title: `Name it “${name}”`,
      operation: 'tracks.rename',
      settings: { name },
      scope: { tracks: [track] },
    },
  ],
});

it('numbers tracks that would get one name, and leaves a single one its own', () => {
  const steps = together([nameless('a', 'Flute'), nameless('b', 'Tuba'), nameless('c', 'Flute')]);
  expect(steps.map(({ title, settings, scope }) => [title, settings.name, scope.tracks])).toEqual([
    ['Name them “Flute 1, 2 …”', 'Flute {n}', ['a', 'c']],
    ['Name it “Tuba”', 'Tuba', ['b']],
  ]);
});
