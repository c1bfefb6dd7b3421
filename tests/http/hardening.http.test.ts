import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { errorSchema, type ApiError } from '#contracts/errors.ts';
import type { StepView } from '#contracts/steps.ts';
import { workedFormat1, bytesOf } from '#core/smf/worked-examples.ts';
import { Api } from '../support/api.ts';
import { isDeep } from '../support/scale.ts';
import { freshServer, startServer, testCluster, type RunningServer } from '../support/server.ts';

let server: RunningServer;
let api: Api;
let id: string;
beforeAll(async () => {
  server = await freshServer({ SATCHEL_MAX_BODY_MB: '1' });
  api = new Api(server.address);
  id = (await api.bring('a.mid', workedFormat1)).id;
});
afterAll(() => server.stop());

function refused(
  answer: { status: number; body: unknown },
  status: number,
  code: string,
): ApiError {
  const problem = errorSchema.strict().parse(answer.body);
  expect([answer.status, problem.code]).toEqual([status, code]);
  return problem;
}

const nul = 'a\u0000b';
const half = 'a\ud83cb';
const dashes = '-'.repeat(36);

describe('issue 9.4: what a request brings is refused by field', () => {
  it.each([nul, half])('text that cannot be kept (%j), wherever it stands', async (text) => {
    expect(
      refused(await api.step(id, 0, 'tracks.rename', { name: text }), 400, 'settings-invalid').where
        .field,
    ).toMatch(/name$/);
    refused(await api.step(id, 0, 'song.name', { title: text }), 400, 'settings-invalid');
    refused(await api.step(id, 0, 'timing.marker', { text }), 400, 'settings-invalid');
    refused(await api.step(id, 0, text), 400, 'settings-invalid');
    refused(await api.step(id, 0, 'tracks.rename', { [text]: 1 }), 400, 'settings-invalid');
    refused(await api.step(id, 0, 'tracks.rename', { name: 'x' }, [text]), 400, 'settings-invalid');
    refused(
      await api.send('POST', '/api/recipes', {
        name: 'x',
        about: text,
        steps: [{ operation: 'tracks.rename', settings: { name: text } }],
      }),
      400,
      'settings-invalid',
    );
    refused(
      await api.send('POST', `/api/songs/${id}/findings`, { key: text, leftAlone: true }),
      400,
      'settings-invalid',
    );
    expect((await api.song(id)).revision).toBe(0);
  });

  it('in addresses: ids of dashes, NUL in a search or a name', async () => {
    for (const path of [`/api/songs/${dashes}`, `/api/songs/${dashes}/steps`])
      refused(await api.send('GET', path), 404, 'song-unknown');
    refused(await api.send('GET', `/api/handoffs/${dashes}/slip`), 404, 'handoff-unknown');
    refused(
      await api.send('PUT', `/api/recipes/${dashes}`, {
        name: 'x',
        about: '',
        steps: [{ operation: 'tracks.unique' }],
      }),
      404,
      'recipe-unknown',
    );
    refused(await api.send('GET', '/api/songs?search=a%00b'), 400, 'settings-invalid');
    expect((await api.send('GET', '/api/songs/%00')).status).toBe(404);
    expect((await api.send('GET', '/api/blobs/%00')).status).toBe(404);
    for (const query of [
      'limit=0',
      'limit=501',
      'from=-1',
      'sort=colour',
      'removed=maybe',
      'other=1',
      'search[]=x',
    ])
      refused(await api.send('GET', `/api/songs?${query}`), 400, 'settings-invalid');
  });

  it('bodies over the limit are told with the true limit and setting; deep nesting is no reading; broken gzip is no defect', async () => {
    const large = refused(await api.step(id, 0, 'x'.repeat(2_000_000)), 413, 'file-too-large');
    expect([large.message, large.expected, large.remedy]).toEqual([
      'The request is too large',
      'at most 1 MB',
      'Split it, or raise SATCHEL_MAX_BODY_MB on this installation.',
    ]);
    const deep = `{"operation":"tracks.rename","revision":0,"settings":{"name":${'['.repeat(50_000)}${']'.repeat(50_000)}}}`;
    expect(
      refused(await api.send('POST', `/api/songs/${id}/steps`, deep), 400, 'body-unreadable').found,
    ).toContain('deep');
    const send = async (body: Uint8Array): Promise<{ status: number; body: unknown }> => {
      const response = await fetch(`${server.address}/api/songs/${id}/steps`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'content-encoding': 'gzip' },
        body: body.slice().buffer,
      });
      return { status: response.status, body: await response.json() };
    };
    refused(await send(new TextEncoder().encode('no gzip')), 400, 'body-unreadable');
    expect((await send(gzipSync('{"operation":"x"}').subarray(0, 20))).status).toBe(400);
  });
});

describe('issue 9.4: what a file brings stays as it came, and makes no step unstorable', () => {
  it('names with NUL, control characters and a symbol cut at the end of what is shown', async () => {
    const text = (type: number, payload: Uint8Array): string =>
      `00FF0${type}${payload.length < 128 ? '' : (0x80 | (payload.length >> 7)).toString(16)}${(payload.length & 127).toString(16).padStart(2, '0')}${Buffer.from(payload).toString('hex')}`;
    const long = new TextEncoder().encode(`${'x'.repeat(199)}🎻`);
    const body = `${text(3, Uint8Array.of(0x41, 0, 0x42, 0x1b))}${text(6, long)}${text(1, Uint8Array.of(0xed, 0xa0, 0xbc))}00903C40 60803C40 00FF2F00`;
    const length = body.replace(/\s/g, '').length / 2;
    const named = (title: string): string => `${text(3, new TextEncoder().encode(title))}00FF2F00`;
    const second = named(`${'y'.repeat(199)}🎻`);
    const file = bytesOf(
      `4D546864 00000006 0001 0002 0060 4D54726B ${length.toString(16).padStart(8, '0')} ${body} 4D54726B ${(second.length / 2).toString(16).padStart(8, '0')} ${second}`,
    );
    const song = await api.bring('odd names.mid', file);
    expect((await api.song(song.id)).tracks.map((t) => t.name.length)).toEqual([2, 199]);
    let revision = 0;
    for (const [operation, settings] of [
      ['tracks.unique', {}],
      ['timing.snap', {}],
      ['velocity.set', { add: 3 }],
      ['notes.transpose', { semitones: 1 }],
      ['timing.lead-in', {}],
    ] as const) {
      const { status, body: result } = await api.step(song.id, revision, operation, settings);
      expect(status, JSON.stringify(result)).toBe(200);
      ({ revision } = result);
    }
    const { handoff, bytes } = await api.handOff(song.id);
    expect(handoff.slip.proof.holds).toBe(true);
    expect(Buffer.from(bytes).includes(Buffer.from([0x41, 0, 0x42, 0x1b]))).toBe(true);
    expect(await api.bytes(`/api/songs/${song.id}/original`)).toEqual(file);
    expect(
      (await api.send<{ steps: StepView[] }>('GET', `/api/songs/${song.id}/steps`)).body.steps
        .length,
    ).toBeGreaterThan(2);
  });
});

describe('issue 9.4: logs', () => {
  it('hold nothing of a song: neither the server’s nor PostgreSQL’s', async () => {
    const secret = 'moonlit-larkspur-7';
    const cluster = await testCluster();
    const url = cluster.create(`logs_${process.pid}_${Date.now()}`);
    const out = path.join(mkdtempSync(path.join(tmpdir(), 'satchel-log-')), 'log');
    const quiet = await startServer(url, { SATCHEL_LOG: 'trace', SATCHEL_TEST_OUTPUT: out });
    const other = new Api(quiet.address);
    const song = await other.bring(`${secret}.mid`, workedFormat1);
    await other.step(song.id, 0, 'tracks.rename', { name: secret }, ['t2']);
    await other.handOff(song.id);
    await other.send('GET', `/api/songs?search=${secret}`);
    // A table that is gone makes every statement on it fail: a defect, with the song's values in it.
    execFileSync('psql', [url, '-c', 'DROP TABLE handoffs CASCADE; DROP TABLE steps CASCADE'], {
      env: { ...process.env, PATH: `${cluster.programs}:${process.env.PATH}` },
      stdio: 'ignore',
    });
    const broken = await other.step(song.id, 1, 'tracks.rename', { name: `${secret} again` }, [
      't2',
    ]);
    expect(broken.status).toBe(500);
    expect((await other.send('POST', `/api/songs/${song.id}/handoffs`, { format: 1 })).status).toBe(
      500,
    );
    await quiet.stop();
    const log = readFileSync(out, 'utf8');
    expect(log).toContain('defect');
    // Every line about a request has the id that its answer said.
    const ofIt = log
      .split('\n')
      .filter((line) => line.includes(broken.headers.get('x-request-id')!));
    expect(ofIt.some((line) => line.includes('"defect"'))).toBe(true);
    expect(ofIt.length).toBeGreaterThan(1);
    expect(log).toContain('42P01');
    expect(log).not.toContain(secret);
    expect(readFileSync(path.join(path.dirname(cluster.dataFolder), 'log'), 'utf8')).not.toContain(
      secret,
    );
    rmSync(path.dirname(out), { recursive: true });
  });
});

describe('issue 9.4: stopping', () => {
  it('SIGTERM finishes what was taken, then stops', async () => {
    const cluster = await testCluster();
    const url = cluster.create(`stop_${process.pid}_${Date.now()}`);
    const first = await startServer(url);
    const other = new Api(first.address);
    const body = Buffer.alloc(6_000_000, Buffer.from([0, 0x90, 60, 64]));
    const file = Buffer.concat([
      Buffer.from(workedFormat1.subarray(0, 14)),
      Buffer.from('MTrk'),
      Buffer.from([0, 0x5b, 0x8d, 0x84]),
      body,
      Buffer.from([0, 0xff, 0x2f, 0]),
    ]);
    const taking = other.upload({ name: 'long.mid', bytes: file });
    await new Promise((resolve) => setTimeout(resolve, 400));
    const stopped = first.stop();
    expect((await taking).status).toBe(201);
    await stopped;
    const second = await startServer(url);
    expect(
      (await new Api(second.address).send<{ songs: { notes: number }[] }>('GET', '/api/songs')).body
        .songs,
    ).toHaveLength(1);
    await second.stop();
  });
});

describe('issue 9.4: a full disk', () => {
  it('is said with 507, nothing is half done, and what is kept can be read', async () => {
    // Room is asked for that no disk has; the rest is as with a full one.
    const free = statfsSync(tmpdir());
    const cluster = await testCluster();
    const url = cluster.create(`room_${process.pid}_${Date.now()}`);
    const before = await startServer(url);
    const { id: kept } = await new Api(before.address).bring('a.mid', workedFormat1);
    await before.stop();
    const full = await startServer(url, {
      SATCHEL_LEAST_ROOM_MB: String(Math.ceil((free.bavail * free.bsize) / 1048576) + 1_000_000),
    });
    const other = new Api(full.address);
    expect(
      refused(await other.upload({ name: 'b.mid', bytes: workedFormat1 }), 507, 'no-room').remedy,
    ).toContain('Make room');
    refused(await other.step(kept, 0, 'tracks.rename', { name: 'x' }, ['t2']), 507, 'no-room');
    refused(await other.send('POST', `/api/songs/${kept}/handoffs`, {}), 507, 'no-room');
    expect((await other.song(kept)).revision).toBe(0);
    expect(await other.bytes(`/api/songs/${kept}/original`)).toEqual(workedFormat1);
    await full.stop();
  });

  it.runIf(isDeep && canMount())(
    'with 0 bytes free the same, and goes on when there is room again',
    async () => {
      const place = mkdtempSync(path.join(tmpdir(), 'satchel-full-'));
      execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=16m', 'tmpfs', place]);
      try {
        const tight = await freshServer({ SATCHEL_DATA: place, SATCHEL_LEAST_ROOM_MB: '0' });
        const other = new Api(tight.address);
        const { id: kept } = await other.bring('a.mid', workedFormat1);
        fill(path.join(place, 'full'));
        const big = new Uint8Array(2_000_000);
        big.set(workedFormat1);
        refused(await other.upload({ name: 'b.mid', bytes: big }), 507, 'no-room');
        expect((await other.send<{ total: number }>('GET', '/api/songs')).body.total).toBe(1);
        rmSync(path.join(place, 'full'));
        expect((await other.upload({ name: 'b.mid', bytes: big })).status).toBe(201);
        expect((await other.song(kept)).revision).toBe(0);
        await tight.stop();
      } finally {
        execFileSync('umount', ['-l', place]);
      }
    },
  );
});

function canMount(): boolean {
  const place = mkdtempSync(path.join(tmpdir(), 'satchel-mount-'));
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=1m', 'tmpfs', place], { stdio: 'ignore' });
    execFileSync('umount', [place], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  } finally {
    rmSync(place, { recursive: true, force: true });
  }
}

/** Writes until not a byte more goes. */
function fill(file: string): void {
  for (const size of [1_000_000, 4096, 1]) {
    try {
      for (;;) writeFileSync(file, new Uint8Array(size), { flag: 'a' });
    } catch {
      // Full for pieces of this size.
    }
  }
}
