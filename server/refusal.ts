import { say } from '#core/problems/sentences.ts';
import type { Problem, ProblemCode } from '#core/problems/problems.ts';
import type { ApiError } from '#contracts/errors.ts';

/** HTTP status of each problem that ends a request. What is not listed is a fault in what was sent: 422. */
const statuses: Partial<Record<ProblemCode, number>> = {
  'song-unknown': 404,
  'recipe-unknown': 404,
  'key-clash': 409,
  'receiver-unknown': 404,
  'link-unknown': 404,
  'instrument-unknown': 404,
  'handoff-unknown': 404,
  'file-unknown': 404,
  'handoff-nothing': 422,
  'handoff-unproven': 500,
  'blob-unknown': 404,
  'original-unknown': 404,
  'sounds-missing': 404,
  'bank-unknown': 404,
  'clip-unknown': 404,
  'clip-twin': 409,
  'route-unknown': 404,
  'revision-stale': 409,
  'revision-unknown': 404,
  'nothing-to-undo': 409,
  'nothing-to-redo': 409,
  'file-too-large': 413,
  'files-too-many': 413,
  'archive-unreadable': 422,
  'archive-too-large': 413,
  'list-too-large': 413,
  'too-many-events': 413,
  'too-many-chunks': 413,
  'too-many-files': 413,
  'content-type-wrong': 415,
  'body-too-wide': 413,
  'file-missing': 400,
  'file-name-invalid': 400,
  'body-unreadable': 400,
  'settings-invalid': 400,
  'operation-unknown': 400,
  'scope-unknown-track': 400,
  'scope-behind-end': 400,
  'scope-has-bars': 400,
  'scope-has-rows': 400,
  'scope-rows-stale': 409,
  'scope-without-bars': 400,
  'bars-behind-end': 400,
  'chord-unreadable': 400,
  'bars-clash': 400,
  'bars-into-themselves': 400,
  'track-unknown': 400,
  'host-foreign': 403,
  'origin-foreign': 403,
  busy: 429,
  'database-away': 503,
  'no-room': 507,
  'work-stopped': 422,
  defect: 500,
};

/** A request that ends with a problem; the error handler answers with it. */
export class Refusal extends Error {
  readonly problem: Problem;

  constructor(problem: Problem) {
    super(problem.code);
    this.problem = problem;
  }

  get status(): number {
    return statuses[this.problem.code] ?? 422;
  }

  get body(): ApiError {
    const { problem } = this;
    return {
      ...say(problem),
      ...(problem.code === 'revision-stale' ? { head: problem.head } : {}),
    };
  }
}

/** The value, or the request ends. */
export function need<T>(result: { ok: true; value: T } | { ok: false; problem: Problem }): T {
  if (!result.ok) throw new Refusal(result.problem);
  return result.value;
}
