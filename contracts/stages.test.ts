import { expect, it } from 'vitest';
import { stageOf } from './stages.ts';

it.each([
  ['/songs/1', 'look'],
  ['/songs/1/', 'look'],
  ['/songs/1/notes', 'notes'],
  ['/songs/1/look', 'look'],
  ['/songs/1/none', undefined],
  ['/recipes', undefined],
  ['/', undefined],
])('%s is of the stage %s', (path, stage) => expect(stageOf(path)).toBe(stage));
