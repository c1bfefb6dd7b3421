import type { Result } from '../problems/problems.ts';
import type { Song } from '../song/song.ts';
import { operations } from './index.ts';
import { runWith, type StepRequest, type StepResult } from './run-with.ts';

export { invalid, type StepRequest, type StepResult } from './run-with.ts';

/** Checks and applies one step; the page's preview and the server's commit are this same call. */
export const runStep = (song: Song, request: StepRequest): Result<StepResult> => runWith(operations, song, request);
