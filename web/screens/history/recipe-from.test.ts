import { expect, it } from 'vitest';
import type { StepView } from '#contracts/steps.ts';
import { trackView } from '../../../tests/support/views.ts';
import { recipeFrom } from './recipe-from.ts';

const step = (
  operation: string,
  tracks: 'all' | string[],
  settings = {},
  changes: StepView['report']['changes'] = [],
): StepView =>
  ({
    operation,
    settings,
    scope: { tracks },
    report: { changes, skipped: [] },
  }) as unknown as StepView;
const song = {
  title: 'Harbour',
  tracks: [trackView({ id: 't1', name: 'Violin' }), trackView({ id: 't2', name: '' })],
};

it('says the tracks of each step by meaning, gone ones by the name they had, and unfolds recipes', () => {
  const recipe = recipeFrom(song, [
    step('notes.repair', 'all'),
    step('velocity.set', ['t1', 't7'], { to: 9 }, [
      { track: 't7', name: 'Horn', did: 'changed', counts: {} },
    ]),
    step('recipe.run', 'all', {
      name: 'x',
      steps: [{ operation: 'events.keep-notes', settings: {}, who: 'drums' }],
    }),
  ]);
  expect(recipe).toEqual({
    name: 'As on Harbour',
    about: '',
    steps: [
      { operation: 'notes.repair', settings: {}, who: 'all' },
      { operation: 'velocity.set', settings: { to: 9 }, who: { named: ['Violin', 'Horn'] } },
      { operation: 'events.keep-notes', settings: {}, who: 'drums' },
    ],
  });
});
