import type { Result } from '../problems/problems.ts';
import type { Song } from '../song/song.ts';
import { operations } from './index.ts';
import { namedSources, runWith, type StepRequest, type StepResult } from './run-with.ts';
import { noSources, type NamedSource, type Sources } from './sources.ts';

export { type StepRequest, type StepResult } from './run-with.ts';

/** Checks and applies one step; the page's preview and the server's commit are this same call. */
export const runStep = (
  song: Song,
  request: StepRequest,
  sources: Sources = noSources,
): Result<StepResult> => runWith(operations, song, request, sources);

/** What has to be fetched before a step can be taken. */
export const sourcesOf = (request: StepRequest): readonly NamedSource[] =>
  namedSources(operations, request);
