import { afterEach, describe, expect, it, vi } from 'vitest';
import { call, RequestFailed } from './client.ts';

afterEach(() => vi.unstubAllGlobals());

/** What a request fails with. */
async function failure(method: 'GET' | 'POST'): Promise<RequestFailed> {
  const asked =
    method === 'GET' ? call('listRecipes') : call('undo', { params: { id: 'x' }, body: {} });
  const error: unknown = await asked.then(
    () => undefined,
    (e: unknown) => e,
  );
  if (!(error instanceof RequestFailed)) throw new Error(`no failure: ${String(error)}`);
  return error;
}

describe('issue 9.1: a request whose server goes away is answered honestly', () => {
  it('one that was to change something may have been done: the message says to look before doing it again', async () => {
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('socket closed')));
    expect(await failure('POST')).toMatchObject({
      status: 0,
      problem: { code: 'unanswered', message: 'The server went away before it answered' },
    });
    expect((await failure('POST')).problem.remedy).toContain('see whether this was done');
  });

  it('one that only asks can be asked again', async () => {
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('socket closed')));
    expect(await failure('GET')).toMatchObject({ problem: { code: 'unreachable' } });
  });

  it('an answer that is none of ours, as a proxy gives, is told as no answer; one of ours as it stands', async () => {
    vi.stubGlobal('fetch', () =>
      Promise.resolve(new Response('<h1>Bad gateway</h1>', { status: 502 })),
    );
    expect(await failure('POST')).toMatchObject({ status: 502, problem: { code: 'unreachable' } });
    const ours = {
      code: 'song-unknown',
      message: 'There is no such song',
      where: {},
      expected: 'a song',
      found: 'none',
      remedy: 'Open the list.',
    };
    vi.stubGlobal('fetch', () =>
      Promise.resolve(new Response(JSON.stringify(ours), { status: 404 })),
    );
    expect(await failure('GET')).toMatchObject({ status: 404, problem: ours });
  });
});
