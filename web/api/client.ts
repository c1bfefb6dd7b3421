import type { ApiError } from '#contracts/errors.ts';

/** An answer that is no success, with what the server said about it. */
export class RequestFailed extends Error {
  readonly status: number;
  readonly problem: ApiError;

  constructor(status: number, problem: ApiError) {
    super(problem.message);
    this.status = status;
    this.problem = problem;
  }
}

const unreachable: ApiError = {
  code: 'unreachable',
  message: 'The server does not answer',
  where: {},
  expected: 'an answer',
  found: 'none',
  remedy: 'See whether the start command still runs; what you had done is kept.',
};

/** A request that was to change something and got no answer: whether it was done is seen by looking, and looked up again. */
const unanswered: ApiError = {
  ...unreachable,
  code: 'unanswered',
  message: 'The server went away before it answered',
  remedy: 'It is usually back within seconds. What you see is looked up again: see whether this was done before you do it again.',
};

export function problemFrom(status: number, text: string): RequestFailed {
  try {
    return new RequestFailed(status, JSON.parse(text) as ApiError);
  } catch {
    return new RequestFailed(status, unreachable);
  }
}

/** JSON from the API; fails with {@link RequestFailed}. */
export async function call<T>(method: 'GET' | 'POST' | 'PUT' | 'DELETE', path: string, body?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, { method, ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }) });
  } catch {
    throw new RequestFailed(0, method === 'GET' ? unreachable : unanswered);
  }
  const text = await response.text();
  if (!response.ok) throw problemFrom(response.status, text);
  return (text === '' ? undefined : JSON.parse(text)) as T;
}

export const problemOf = (error: unknown): ApiError => (error instanceof RequestFailed ? error.problem : { ...unreachable, code: 'page-defect', message: 'The page failed', found: String(error), remedy: 'Load the page again; what you had done is kept.' });
