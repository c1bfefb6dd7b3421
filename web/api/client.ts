import { addressOf, urlOf, type Params, type RouteName } from '#contracts/addresses.ts';
import type { ApiError } from '#contracts/errors.ts';
import type { Answer, BodyAsked, QueryAsked } from '#contracts/routes.ts';

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

/**
 * A request that was to change something and got no answer: whether it was done is seen by looking, and
 * looked up again.
 */
const unanswered: ApiError = {
  ...unreachable,
  code: 'unanswered',
  message: 'The server went away before it answered',
  remedy:
    'It is usually back within seconds. What you see is looked up again: see whether this was done before you do it again.',
};

export function problemFrom(status: number, text: string): RequestFailed {
  try {
    return new RequestFailed(status, JSON.parse(text) as ApiError);
  } catch {
    return new RequestFailed(status, unreachable);
  }
}

/** What a request is asked with: only what its route has, and a signal that says when nobody waits. */
type Asked<N extends RouteName> = { readonly signal?: AbortSignal } & ([keyof Params<N>] extends [
  never,
]
  ? { readonly params?: never }
  : { readonly params: Params<N> }) &
  (QueryAsked<N> extends undefined
    ? { readonly query?: never }
    : { readonly query: QueryAsked<N> }) &
  (BodyAsked<N> extends undefined ? { readonly body?: never } : { readonly body: BodyAsked<N> });

/** A request of the API by its name, as the table of routes has it; fails with {@link RequestFailed}. */
export async function call<N extends RouteName>(
  name: N,
  ...[asked]: Record<never, never> extends Asked<N> ? [asked?: Asked<N>] : [asked: Asked<N>]
): Promise<Answer<N>> {
  const { method } = addressOf(name);
  const { params, query, body, signal } = (asked ?? {}) as {
    signal?: AbortSignal;
    params?: Params<N>;
    query?: object;
    body?: unknown;
  };
  let response: Response;
  try {
    response = await fetch(urlOf(name, params ?? ({} as Params<N>), query), {
      method,
      ...(signal ? { signal } : {}),
      ...(body === undefined
        ? {}
        : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new RequestFailed(0, method === 'GET' ? unreachable : unanswered);
  }
  const text = await response.text();
  if (!response.ok) throw problemFrom(response.status, text);
  // The one place where an answer is taken for what the table says: the tests hold the server to it.
  return (text === '' ? undefined : JSON.parse(text)) as Answer<N>;
}

/** A file of the server by its address; fails with {@link RequestFailed}. */
export async function fetchFile(address: string): Promise<Blob> {
  const response = await fetch(address).catch(() => {
    throw problemFrom(0, '');
  });
  if (!response.ok) throw problemFrom(response.status, await response.text());
  return response.blob();
}

export const problemOf = (error: unknown): ApiError =>
  error instanceof RequestFailed
    ? error.problem
    : {
        ...unreachable,
        code: 'page-defect',
        message: 'The page failed',
        found: String(error),
        remedy: 'Load the page again; what you had done is kept.',
      };
