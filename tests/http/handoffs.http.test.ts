import { createHash } from 'node:crypto';
import { readdirSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { isDeep } from '../support/scale.ts';
import {
  handoffPreviewSchema,
  handoffSchema,
  progressSchema,
  type HandoffPreview,
  type HandoffProgress,
  type HandoffView,
} from '#contracts/handoffs.ts';
import { demoFiles } from '#demo/files.ts';
import type { ApiError } from '#contracts/errors.ts';
import { Api } from '../support/api.ts';
import { watchAnswers } from '../support/as-described.ts';
import { readIndependently } from '../support/independent.ts';
import { freshServer, type RunningServer } from '../support/server.ts';
import { unpacked } from '../support/unpacked.ts';
import { sixtyByTwelve } from '../support/sixty-by-twelve.ts';

let server: RunningServer;
let api: Api;
let ferry: string;
beforeAll(async () => {
  watchAnswers();
  server = await freshServer();
  api = new Api(server.address);
  ferry = (await api.bring('The Lantern Ferry.mid', demoFiles[0]!.bytes())).id;
  const { status } = await api.step(ferry, 0, 'timing.sections');
  expect(status).toBe(200);
});
afterAll(() => server.stop());

async function make(id: string, settings: object): Promise<HandoffView> {
  const { status, body } = await api.send('POST', `/api/songs/${id}/handoffs`, settings);
  expect(status, JSON.stringify(body)).toBe(201);
  return handoffSchema.parse(body);
}
async function preview(id: string, settings: object): Promise<HandoffPreview> {
  const { status, body } = await api.send('POST', `/api/songs/${id}/handoffs`, {
    ...settings,
    preview: true,
  });
  expect(status, JSON.stringify(body)).toBe(200);
  return handoffPreviewSchema.parse(body);
}
async function refusal(id: string, settings: object): Promise<ApiError & { status: number }> {
  const { status, body } = await api.send<ApiError>('POST', `/api/songs/${id}/handoffs`, settings);
  return { ...body, status };
}
const kept = async (id: string): Promise<number> =>
  (await api.send<{ handoffs: unknown[] }>('GET', `/api/songs/${id}/handoffs`)).body.handoffs
    .length;
const fileOf = (h: HandoffView, name: string): Promise<Uint8Array> =>
  api.bytes(`/api/handoffs/${h.id}/files/${encodeURIComponent(name)}`);
const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const music = (lines: readonly string[]): string[] => lines.filter((e) => !e.endsWith('ff2f'));

describe('a handoff in divisions', () => {
  const divisions = [
    {},
    { format: 0 },
    { divide: 'tracks' },
    { divide: 'drums' },
    { divide: 'sections' },
    { divide: 'sections-tracks' },
    { divide: 'map' },
    { divide: 'groups', groups: [{ name: 'Winds', tracks: ['t2', 't3'] }] },
    { scope: { bars: { from: 9, to: 16 } }, repeat: 2 },
    { form: { format: 'karaoke', ppq: 96, end: 'at the bar' } },
  ];

  it.each(divisions)(
    'every file of %j is read by an independent library without complaint, is what its slip says, and is in the archive',
    async (settings) => {
      const made = await make(ferry, settings);
      const archive = await unpacked(await api.bytes(`/api/handoffs/${made.id}/files.zip`));
      expect([...archive.keys()]).toEqual(made.files.map((f) => f.name));
      for (const { name, bytes, sha256: hash, extent } of made.files) {
        const file = await fileOf(made, name);
        expect([file.length, sha256(file)]).toEqual([bytes, hash]);
        expect(Buffer.compare(archive.get(name)!, file)).toBe(0);
        const read = readIndependently(file);
        const notes = read.tracks.flat().filter((e) => /^\d+ 9.{3}(?!00)..$/.test(e)).length;
        expect([read.tracks.length, notes]).toEqual([extent!.tracks, extent!.notes]);
      }
    },
  );

  it('a file a track, loaded again together, gives the song', async () => {
    const whole = readIndependently((await api.handOff(ferry, 1)).bytes);
    const made = await make(ferry, { divide: 'tracks' });
    const files = await Promise.all(
      made.files.map(async ({ name }) => readIndependently(await fileOf(made, name))),
    );
    expect(files.map((f) => music(f.tracks[0]!))).toEqual(files.map(() => music(whole.tracks[0]!)));
    expect(files.map((f) => music(f.tracks[1]!))).toEqual(whole.tracks.slice(1).map(music));
    const ends = files.map((f) => f.tracks.map((t) => t.at(-1)));
    expect(new Set(ends.flat()).size).toBe(1);
  });

  it('a preview says the same files, and keeps none', async () => {
    for (const settings of [{ divide: 'sections' }, { scope: { bars: { from: 3, to: 4 } } }]) {
      const before = await kept(ferry);
      const said = await preview(ferry, settings);
      expect(await kept(ferry)).toBe(before);
      const made = await make(ferry, settings);
      expect(said.files).toEqual(made.files.map(({ sha256: _, ...file }) => file));
      const again = await api.send('GET', `/api/handoffs/${made.id}`);
      expect(again.body).toEqual(made);
    }
  });

  it('its slip stands as text with a line that sha256sum takes, and as a page of its own', async () => {
    const made = await make(ferry, { divide: 'sections' });
    const text = Buffer.from(await api.bytes(`/api/handoffs/${made.id}/slip`)).toString();
    const page = Buffer.from(await api.bytes(`/api/handoffs/${made.id}/slip.html`)).toString();
    for (const { name, sha256: hash } of made.files) {
      expect(text).toContain(`${hash}  ${name}\n`);
      expect(page).toContain(name);
      expect(page).toContain(hash);
    }
    expect(page).not.toMatch(/<script|src=|href=/);
  });

  it('an address makes the file when it is fetched, and keeps nothing', async () => {
    const before = await kept(ferry);
    const out = (settings: object) =>
      api.bytes(
        `/api/songs/${ferry}/out/any.mid?settings=${encodeURIComponent(JSON.stringify(settings))}`,
      );
    const bars = { tracks: ['t3'], scope: { bars: { from: 5, to: 8 } } };
    const made = await make(ferry, bars);
    expect(sha256(await out(bars))).toBe(made.files[0]!.sha256);
    const called = await fetch(`${server.address}/api/songs/${ferry}/out/a%2Fb%3F.mid`);
    expect(called.headers.get('content-disposition')).toContain('filename="a b.mid"');
    const several = await unpacked(await out({ divide: 'sections' }));
    expect(several.size).toBe((await preview(ferry, { divide: 'sections' })).files.length);
    expect(await kept(ferry)).toBe(before + 1);
  });
});

describe('sixty tracks by twelve sections', () => {
  let id: string;
  beforeAll(async () => {
    id = (await api.bring('sixty.mid', sixtyByTwelve())).id;
  });

  const begin = (signal?: AbortSignal): Promise<Response> =>
    fetch(`${server.address}/api/songs/${id}/handoffs`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', accept: 'application/x-ndjson' },
      body: JSON.stringify({ divide: 'sections-tracks' }),
      ...(signal ? { signal } : {}),
    });

  it.runIf(isDeep)(
    'are made, proven and packed as 720 files, with progress told on the way',
    { timeout: 240_000 },
    async () => {
      const response = await begin();
      const lines = (await response.text())
        .trim()
        .split('\n')
        .map((line) => progressSchema.parse(JSON.parse(line)) as HandoffProgress);
      const last = lines.at(-1)!;
      if (!('handoff' in last)) throw new Error(JSON.stringify(last));
      const told = lines.flatMap((l) => ('made' in l ? [l.made] : []));
      expect(told.length).toBeGreaterThan(20);
      expect([...told].sort((a, b) => a - b)).toEqual(told);
      expect(told.at(-1)).toBe(720);
      const { handoff } = last;
      expect(new Set(handoff.files.map((f) => f.name.toLowerCase())).size).toBe(720);
      const archive = await unpacked(await api.bytes(`/api/handoffs/${handoff.id}/files.zip`));
      expect(archive.size).toBe(720);
      for (const { name, sha256: hash } of handoff.files.filter((_, n) => n % 60 === 7))
        expect(sha256(archive.get(name)!)).toBe(hash);
    },
  );

  it('are refused with a status where they are refused before anything is made', async () => {
    const response = await fetch(`${server.address}/api/songs/${id}/handoffs`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', accept: 'application/x-ndjson' },
      body: JSON.stringify({ divide: 'drums' }),
    });
    expect(response.status).toBe(422);
    expect(await response.json()).toMatchObject({ code: 'handoff-nothing' });
  });

  it('stop when whoever asked goes away, and nothing of them is kept', async () => {
    const before = await kept(id);
    const stop = new AbortController();
    const response = await begin(stop.signal);
    const reader = response.body!.getReader();
    await reader.read();
    stop.abort();
    await new Promise((wake) => setTimeout(wake, 1500));
    expect(await kept(id)).toBe(before);
    expect(readdirSync(path.join(server.dataFolder, 'incoming'))).toEqual([]);
  });
});

describe('what cannot be handed off', () => {
  it.each([
    [{ tracks: [] }, 422, 'No track is chosen'],
    [{ tracks: ['t99'] }, 400, 't99'],
    [{ divide: 'groups', groups: [] }, 422, 'No group'],
    [{ divide: 'groups', groups: [{ name: ' ', tracks: ['t2'] }] }, 422, 'no name'],
    [{ divide: 'groups', groups: [{ name: 'A', tracks: [] }] }, 422, 'holds'],
    [{ scope: { bars: { from: 9000, to: 9001 } } }, 400, '9,000'],
    [{ tracks: ['t2'], scope: { bars: { from: 1, to: 1 } } }, 422, 'Nothing plays'],
    [{ names: '../{song}' }, 400, '../{song}'],
    [{ names: '{song} {artist}' }, 400, '{artist}'],
    [{ names: '{song' }, 400, '{song'],
    [{ names: '  ' }, 400, 'nothing'],
    [{ divide: 'halves' }, 400, 'divide'],
    [{ form: { ppq: 0 } }, 400, 'ppq'],
    [{ unknown: 1 }, 400, 'unknown'],
  ])('%j is refused with what, where and what to do', async (settings, status, says) => {
    const before = await kept(ferry);
    const problem = await refusal(ferry, settings);
    expect(problem.status).toBe(status);
    expect(JSON.stringify(problem)).toContain(says);
    expect(problem.remedy).not.toBe('');
    expect(await kept(ferry)).toBe(before);
  });

  it('names that clash are mended, each told', async () => {
    const groups = [
      { name: 'Winds', tracks: ['t2'] },
      { name: 'winds', tracks: ['t3'] },
      { name: 'CON', tracks: ['t4'] },
      { name: 'a/b.', tracks: ['t5'] },
    ];
    const { files, notes } = await preview(ferry, { divide: 'groups', groups, names: '{track}' });
    expect(files.map((f) => f.name)).toEqual(['Winds.mid', 'winds (2).mid', '_CON.mid', 'a b.mid']);
    expect(notes.join(' ')).toMatch(
      /“winds” is “winds \(2\)”.*“CON” is “_CON”.*“a\/b\.” is “a b”/s,
    );
  });
});
