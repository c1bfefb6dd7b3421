import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { errorSchema, type ApiError } from '#contracts/errors.ts';
import { workedFormat1 } from '#core/smf/worked-examples.ts';
import { Api } from '../support/api.ts';
import { freshServer, type RunningServer } from '../support/server.ts';

let server: RunningServer;
let api: Api;
let id: string;
beforeAll(async () => {
  server = await freshServer({ SATCHEL_MAX_MB: '1', SATCHEL_READ_TIMEOUT_MS: '20000' });
  api = new Api(server.address);
  id = (await api.bring('a.mid', workedFormat1)).id;
});
afterAll(() => server.stop());

/** Every refusal has the one shape, a 4xx, and leaves the list as it was. */
async function refusedWith(
  answer: { status: number; body: unknown },
  status: number,
  code: string,
): Promise<ApiError> {
  const problem = errorSchema.strict().parse(answer.body);
  expect([answer.status, problem.code]).toEqual([status, code]);
  expect(
    Math.min(
      problem.message.length,
      problem.expected.length,
      problem.found.length,
      problem.remedy.length,
    ),
  ).toBeGreaterThan(0);
  expect((await api.send<{ songs: unknown[] }>('GET', '/api/songs')).body.songs).toHaveLength(1);
  expect((await api.song(id)).revision).toBe(0);
  return problem;
}

/** A request with headers that fetch does not let through. */
function raw(
  path: string,
  method: string,
  headers: Record<string, string>,
  body = '',
): Promise<{ status: number; body: unknown }> {
  const { hostname, port } = new URL(server.address);
  return new Promise((resolve, reject) => {
    const sent = request(
      {
        hostname,
        port,
        path,
        method,
        headers: { 'content-length': String(Buffer.byteLength(body)), ...headers },
      },
      (response) => {
        let text = '';
        response.on('data', (d: Buffer) => (text += d.toString()));
        response.on('end', () =>
          resolve({ status: response.statusCode ?? 0, body: text ? JSON.parse(text) : undefined }),
        );
      },
    );
    sent.on('error', reject);
    sent.end(body);
  });
}

const multipart = (name: string, field = 'file'): [Record<string, string>, string] => {
  const text = `--xx\r\nContent-Disposition: form-data; name="${field}"; filename="${name}"\r\nContent-Type: audio/midi\r\n\r\n${Buffer.from(workedFormat1).toString('latin1')}\r\n--xx--\r\n`;
  return [{ 'content-type': 'multipart/form-data; boundary=xx' }, text];
};

describe('files that cannot be taken', () => {
  it('an empty file, a text, a zip', async () => {
    await refusedWith(
      await api.upload({ name: 'empty.mid', bytes: new Uint8Array(0) }),
      422,
      'file-empty',
    );
    await refusedWith(
      await api.upload({ name: 'text.mid', bytes: new TextEncoder().encode('no music') }),
      422,
      'not-midi',
    );
    const problem = await refusedWith(
      await api.upload({ name: 'x.zip', bytes: Uint8Array.of(0x50, 0x4b, 3, 4, 0, 0) }),
      422,
      'archive-unreadable',
    );
    expect(problem.message).toBe('The archive cannot be unpacked');
  });

  it('one over the size limit', async () => {
    await refusedWith(
      await api.upload({ name: 'big.mid', bytes: new Uint8Array(1048577) }),
      413,
      'file-too-large',
    );
  });

  it.each([
    ['../secret.mid', 'a path'],
    ['a/b.mid', 'a path'],
    ['a\\\\b.mid', 'a path'],
    ['..', 'only dots'],
  ])('a name with path parts: %s', async (name, why) => {
    const problem = await refusedWith(
      await raw('/api/songs', 'POST', ...multipart(name)),
      400,
      'file-name-invalid',
    );
    expect(problem.found).toBe(why);
  });

  it('a name with control characters', async () => {
    await refusedWith(
      await raw('/api/songs', 'POST', ...multipart('next\u0085line.mid')),
      400,
      'file-name-invalid',
    );
    // A control character below 32 is no part of a header at all (RFC 9110, field values).
    await refusedWith(
      await raw('/api/songs', 'POST', ...multipart('bell\u0007.mid')),
      400,
      'body-unreadable',
    );
  });

  it('nothing, a wrong field, a wrong content type, a broken body', async () => {
    await refusedWith(
      await raw(
        '/api/songs',
        'POST',
        { 'content-type': 'multipart/form-data; boundary=xx' },
        '--xx--\r\n',
      ),
      400,
      'file-missing',
    );
    await refusedWith(
      await raw('/api/songs', 'POST', ...multipart('a.mid', 'other')),
      400,
      'file-missing',
    );
    await refusedWith(
      await raw('/api/songs', 'POST', { 'content-type': 'audio/midi' }, 'MThd'),
      415,
      'content-type-wrong',
    );
    await refusedWith(
      await raw(
        '/api/songs',
        'POST',
        { 'content-type': 'multipart/form-data; boundary=xx' },
        '--xx\r\nContent-Dis',
      ),
      400,
      'body-unreadable',
    );
  });
});

describe('requests that cannot be met', () => {
  it('unknown songs, handoffs, files, addresses', async () => {
    const nowhere = '00000000-0000-4000-8000-000000000000';
    for (const path of [
      `/api/songs/${nowhere}`,
      '/api/songs/1',
      `/api/songs/${'x'.repeat(300)}`,
      `/api/songs/${nowhere}/original`,
      `/api/songs/${nowhere}/steps`,
    ])
      await refusedWith(await api.send('GET', path), 404, 'song-unknown');
    await refusedWith(await api.send('POST', `/api/songs/${nowhere}/undo`), 404, 'song-unknown');
    await refusedWith(await api.send('DELETE', '/api/songs/;drop'), 404, 'song-unknown');
    await refusedWith(
      await api.send('GET', `/api/handoffs/${nowhere}/files/a.mid`),
      404,
      'handoff-unknown',
    );
    await refusedWith(await api.send('GET', '/api/nonsense'), 404, 'route-unknown');
    const { handoff } = await api.handOff(id);
    await refusedWith(
      await api.send('GET', `/api/handoffs/${handoff.id}/files/other.mid`),
      404,
      'file-unknown',
    );
    await refusedWith(
      await api.send('GET', `/api/handoffs/${handoff.id}/files/..%2f..%2fetc%2fpasswd`),
      404,
      'file-unknown',
    );
  });

  it.each([
    ['GET', 'songs', ''],
    ['DELETE', 'songs', ''],
    ['POST', 'songs', '/restore'],
    ['GET', 'handoffs', ''],
    ['DELETE', 'receivers', ''],
    ['DELETE', 'shelf/clips', ''],
    ['DELETE', 'recipes', ''],
    ['DELETE', 'instruments', ''],
  ] as const)(
    '%s %s of a very long id%s: its first hundred letters are told',
    async (method, what, then) => {
      const asked = `/api/${what}/${'x'.repeat(300)}${then}`;
      const { status, body } = await api.send<ApiError>(method, asked);
      expect([status, body.where.id]).toEqual([404, 'x'.repeat(100)]);
    },
  );

  it('a stale revision', async () => {
    expect(
      (
        await refusedWith(
          await api.step(id, 7, 'tracks.rename', { name: 'X' }, ['t2']),
          409,
          'revision-stale',
        )
      ).head,
    ).toBe(0);
  });

  it('settings and scopes out of range', async () => {
    await refusedWith(await api.step(id, 0, 'tracks.explode'), 400, 'operation-unknown');
    const named = await refusedWith(
      await api.step(id, 0, 'tracks.rename', { name: '' }, ['t2']),
      400,
      'settings-invalid',
    );
    expect([named.where.field, named.expected]).toEqual(['settings.name', 'at least 1 character']);
    await refusedWith(
      await api.step(id, 0, 'tracks.rename', { name: 'x'.repeat(201) }),
      400,
      'settings-invalid',
    );
    await refusedWith(
      await api.step(id, 0, 'tracks.rename', { name: 'a\nb' }),
      400,
      'settings-invalid',
    );
    await refusedWith(
      await api.step(id, 0, 'tracks.rename', { name: 'a', size: 3 }),
      400,
      'settings-invalid',
    );
    await refusedWith(
      await api.step(id, 0, 'tracks.rename', { name: 'a' }, ['t99']),
      400,
      'scope-unknown-track',
    );
    await refusedWith(
      await api.step(id, 0, 'tracks.rename', { name: 'a' }, []),
      400,
      'settings-invalid',
    );
    await refusedWith(
      await api.step(id, 0, 'tracks.reorder', { before: 't99' }, ['t2']),
      400,
      'track-unknown',
    );
    await refusedWith(await api.step(id, 0, 'tracks.remove'), 422, 'no-track-left');
    await refusedWith(
      await api.send('POST', `/api/songs/${id}/steps`, { operation: 'tracks.remove' }),
      400,
      'settings-invalid',
    );
    await refusedWith(
      await api.send('POST', `/api/songs/${id}/handoffs`, { format: 3 }),
      400,
      'settings-invalid',
    );
  });

  it('bodies that are no JSON, or of another type', async () => {
    await refusedWith(
      await api.send('POST', `/api/songs/${id}/steps`, '{"operation":'),
      400,
      'body-unreadable',
    );
    await refusedWith(
      await raw(`/api/songs/${id}/steps`, 'POST', { 'content-type': 'text/plain' }, 'rename'),
      415,
      'content-type-wrong',
    );
    await refusedWith(
      await api.send(
        'POST',
        `/api/songs/${id}/steps`,
        JSON.stringify({ operation: 'x'.repeat(9_000_000) }),
      ),
      413,
      'file-too-large',
    );
    await refusedWith(await raw('/api/songs/%E0%A4%A', 'GET', {}), 400, 'body-unreadable');
  });

  it('a foreign host or origin', async () => {
    await refusedWith(
      await raw('/api/songs', 'GET', { host: 'evil.example' }),
      403,
      'host-foreign',
    );
    await refusedWith(
      await raw('/api/songs', 'GET', { origin: 'http://evil.example' }),
      403,
      'origin-foreign',
    );
    await refusedWith(
      await raw(`/api/songs/${id}`, 'DELETE', { origin: 'null' }),
      403,
      'origin-foreign',
    );
  });
});

describe('bodies of many named values', () => {
  it('are counted before they are read: 400,000 are refused, 100,000 are looked at', async () => {
    const named = (many: number): string =>
      `{${Array.from({ length: many }, (_, n) => `"k${n}":${n}`).join(',')}}`;
    const send = async (body: string) => {
      const sent = await fetch(`${server.address}/api/songs/${id}/steps`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body,
      });
      return [sent.status, await sent.json()];
    };
    expect(await send(named(400_000))).toMatchObject([
      413,
      { code: 'body-too-wide', expected: 'at most 150,000', found: '400,000' },
    ]);
    expect(await send(named(100_000))).toMatchObject([400, { code: 'settings-invalid' }]);
  });
});

describe('limits', () => {
  it('a file that takes too long is refused, nothing is stored, and the server goes on', async () => {
    const hurried = await freshServer({ SATCHEL_READ_TIMEOUT_MS: '1' });
    const other = new Api(hurried.address);
    const body = Buffer.alloc(4_000_000, Buffer.from([0, 0x90, 60, 64]));
    const file = Buffer.concat([
      Buffer.from(workedFormat1.subarray(0, 14)),
      Buffer.from('MTrk'),
      Buffer.from([0, 0x3d, 0x09, 0x00]),
      body,
    ]);
    const { status, body: problem } = await other.upload({ name: 'slow.mid', bytes: file });
    expect([status, problem.code]).toEqual([422, 'reading-stopped']);
    expect((await other.send<{ songs: unknown[] }>('GET', '/api/songs')).body.songs).toEqual([]);
    await hurried.stop();
  });
});

describe('hostile files', () => {
  it('a track that claims four thousand million bytes, and a million patterns of nothing, leave the server answering', async () => {
    const claim = workedFormat1.slice(0, 60);
    claim.set([0xff, 0xff, 0xff, 0xff], 18);
    expect((await api.upload({ name: 'claim.mid', bytes: claim })).status).toBeLessThan(500);
    const many = new Uint8Array(14 + 8 * 60_000);
    many.set(workedFormat1.subarray(0, 14));
    for (let at = 14; at < many.length; at += 8) many.set([0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, 0], at);
    expect((await api.upload({ name: 'many.mid', bytes: many })).status).toBeLessThan(500);
    expect((await api.send('GET', '/api/health')).status).toBe(200);
  });
});
