import { createHash } from 'node:crypto';
import { request } from 'node:http';
import { Sequelize } from 'sequelize';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { isDeep } from '../support/scale.ts';
import { demoFiles } from '#demo/files.ts';
import { shippedReceivers } from '#core/handoff/receiver/shipped.ts';
import type { ApiError } from '#contracts/errors.ts';
import type { HandoffPreview, HandoffView, NewLink } from '#contracts/handoffs.ts';
import type { ReceiverView } from '#contracts/receivers.ts';
import type { StepView } from '#contracts/steps.ts';
import { Api } from '../support/api.ts';
import { watchAnswers } from '../support/as-described.ts';
import { readIndependently } from '../support/independent.ts';
import { breaches } from '../support/receiving.ts';
import { freshServer, type RunningServer } from '../support/server.ts';
import { unpacked } from '../support/unpacked.ts';
import { zipOf, type ToPack } from '../support/zip.ts';

/** A name that others may know the server by, as one behind which it is reached. */
const otherHost = 'satchel.studio.example';
let server: RunningServer & { databaseUrl: string };
let api: Api;
let ferry: string;
beforeAll(async () => {
  watchAnswers();
  server = await freshServer({ SATCHEL_HOSTS: otherHost });
  api = new Api(server.address);
  ferry = (await api.bring('The Lantern Ferry.mid', demoFiles[0]!.bytes())).id;
  expect((await api.step(ferry, 0, 'timing.sections')).status).toBe(200);
  expect((await api.step(ferry, 1, 'tracks.rename', { name: 'Reed' }, ['t2'])).status).toBe(200);
});
afterAll(() => server.stop());

const handOff = async (id: string, settings: object): Promise<HandoffView> => {
  const { status, body } = await api.send<HandoffView>(
    'POST',
    `/api/songs/${id}/handoffs`,
    settings,
  );
  expect(status, JSON.stringify(body)).toBe(201);
  return body;
};
const fileOf = (h: HandoffView, name: string): Promise<Uint8Array> =>
  api.bytes(`/api/handoffs/${h.id}/files/${encodeURIComponent(name)}`);
const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

describe('receivers', () => {
  it('are made, changed, exported, imported, removed and restored; shipped ones stay as they are', async () => {
    const mine = { name: 'My old keyboard', takes: { formats: [0], fileNames: '8.3' } };
    const made = await api.send<ReceiverView>('POST', '/api/receivers', mine);
    expect([made.status, made.body.takes.formats, made.body.shipped]).toEqual([201, [0], false]);
    const { id, shipped, ...receiver } = made.body;
    const file = await api.bytes(`/api/receivers/file?ids=${id}`);
    const read = JSON.parse(Buffer.from(file).toString()) as {
      version: number;
      receivers: unknown[];
    };
    expect(read).toEqual({ version: 1, receivers: [receiver] });
    const taken = await api.send<{ receivers: ReceiverView[] }>(
      'POST',
      '/api/receivers/file',
      read,
    );
    expect([taken.status, taken.body.receivers.map((r) => r.name)]).toEqual([
      201,
      ['My old keyboard'],
    ]);
    const changed = await api.send<ReceiverView>('PUT', `/api/receivers/${id}`, {
      ...receiver,
      name: 'Mine',
    });
    expect(changed.body.name).toBe('Mine');
    const list = async (): Promise<string[]> =>
      (await api.send<{ receivers: ReceiverView[] }>('GET', '/api/receivers')).body.receivers.map(
        (r) => r.id,
      );
    expect(await list()).toContain(id);
    expect((await api.send('DELETE', `/api/receivers/${id}`)).status).toBe(204);
    expect(await list()).not.toContain(id);
    expect((await api.send('POST', `/api/receivers/${id}/restore`)).status).toBe(200);
    expect(await list()).toContain(id);
    const shippedOne = await api.send<ApiError>('PUT', '/api/receivers/keyboard', receiver);
    expect([shippedOne.status, shippedOne.body.code]).toEqual([422, 'receiver-shipped']);
  });

  it.each([
    ['nonsense', { receivers: 'x' }, 'body.version'],
    ['a newer version', { version: 2, receivers: [{ name: 'x' }] }, 'body.version'],
    [
      'an unknown limit',
      { version: 1, receivers: [{ name: 'x', takes: { colour: true } }] },
      'body.receivers.0.takes',
    ],
    [
      'limits that nothing fits',
      { version: 1, receivers: [{ name: 'x', takes: { resolutions: [960], finest: 480 } }] },
      'body.receivers.0.takes.resolutions',
    ],
    [
      'a list without programs',
      { version: 1, receivers: [{ name: 'x', takes: { programs: 'a list' } }] },
      'body.receivers.0.takes.programList',
    ],
    [
      'one that takes nothing',
      {
        version: 1,
        receivers: [
          { name: 'x', takes: { notes: false, marks: [], tempo: 'none', lyrics: false } },
        ],
      },
      'body.receivers.0.takes.notes',
    ],
  ])(
    'a file of receivers with %s is refused by the field, and none of it taken',
    async (_, file, field) => {
      const before = await api.send('GET', '/api/receivers');
      const { status, body } = await api.send<ApiError>('POST', '/api/receivers/file', file);
      expect([status, body.where.field]).toEqual([400, field]);
      expect((await api.send('GET', '/api/receivers')).body).toEqual(before.body);
    },
  );

  it.each(shippedReceivers.map((r) => [r.name, r] as const))(
    'what leaves for %s is within its limits, of files of the demo, by a checker of the tests',
    async (_, { id, takes }) => {
      for (const { name, bytes } of isDeep ? demoFiles : demoFiles.slice(1, 2)) {
        const song = (await api.bring(name, bytes())).id;
        const made = await handOff(song, { receiver: id });
        expect(made.receiver?.id).toBe(id);
        const karaoke = takes.formats.includes('karaoke');
        for (const file of made.files)
          expect(breaches(await fileOf(made, file.name), file.name, takes, karaoke)).toEqual([]);
      }
    },
    120_000,
  );

  it('set what is not said; what is said by hand counts', async () => {
    const made = await handOff(ferry, {
      receiver: 'keyboard',
      form: { ppq: 96 },
      take: { pan: false },
    });
    const [file] = made.files;
    expect(file!.name).toMatch(/^[A-Z0-9_]{1,8}\.MID$/);
    const read = readIndependently(await fileOf(made, file!.name));
    expect([read.format, read.division]).toEqual([0, 96]);
    expect(read.tracks.flat().some((e) => / b.0a/.test(e))).toBe(false);
    const unknown = await api.send<ApiError>('POST', `/api/songs/${ferry}/handoffs`, {
      receiver: 'nobody',
    });
    expect([unknown.status, unknown.body.code]).toEqual([404, 'receiver-unknown']);
  });

  it('have a recipe run on the copy that leaves: the song stays, the slip names it; one that is refused there is said', async () => {
    const recipe = {
      name: 'Up',
      steps: [{ operation: 'notes.transpose', settings: { semitones: 12 } }],
    };
    const before = await api.song(ferry);
    const made = await handOff(ferry, { recipe });
    expect(made.slip.notes.join()).toContain('On the copy that leaves: Ran “Up”');
    expect((await api.song(ferry)).revision).toBe(before.revision);
    const keys = (bytes: Uint8Array): number[] =>
      readIndependently(bytes).tracks[1]!.flatMap((e) => {
        const [, key] = / 9.(..)(?!00)../.exec(e) ?? [];
        return key ? [Number.parseInt(key, 16)] : [];
      });
    const plain = await handOff(ferry, {});
    expect(keys(await fileOf(made, made.files[0]!.name))).toEqual(
      keys(await fileOf(plain, plain.files[0]!.name)).map((k) => k + 12),
    );
    const wrong = {
      name: 'No',
      steps: [{ operation: 'notes.transpose', settings: { semitones: 'up' } }],
    };
    const refused = await api.send<ApiError>('POST', `/api/songs/${ferry}/handoffs`, {
      recipe: wrong,
    });
    expect([refused.status, refused.body.where.field]).toEqual([
      400,
      'recipe.steps.1.settings.semitones',
    ]);
  });
});

/** Marks in a form that the receiver does not show. */
const asMarkers = { markers: 'markers' };

describe('a forecast', () => {
  it('is answered by a preview: what, how much, where, why, and what helps; its remedy makes it go', async () => {
    const preview = async (settings: object): Promise<HandoffPreview> =>
      (
        await api.send<HandoffPreview>('POST', `/api/songs/${ferry}/handoffs`, {
          ...settings,
          preview: true,
        })
      ).body;
    const said = (await preview({ receiver: 'cue-points', take: asMarkers })).forecast!;
    const marks = said.find((i) => i.what === 'markers' && i.arrives === 'not')!;
    expect(marks.count).toBeGreaterThan(0);
    expect(marks.bars.length).toBeGreaterThan(0);
    expect(marks.why).not.toBe('');
    const remedy = marks.remedy as { setting: object };
    const after = (await preview({ receiver: 'cue-points', ...remedy.setting })).forecast!;
    expect(after.filter((i) => i.what === 'markers' && i.arrives === 'not')).toEqual([]);
    expect((await preview({ forecast: false })).forecast).toBeUndefined();
  });
});

describe('a satchel', () => {
  const satchelOf = async (h: HandoffView, query = ''): Promise<Map<string, Buffer>> =>
    unpacked(await api.bytes(`/api/handoffs/${h.id}/satchel.zip${query}`));
  const packed = (files: Map<string, Buffer>): ToPack[] =>
    [...files].map(([name, bytes]) => ({ name, bytes: new Uint8Array(bytes) }));
  const open = (files: ToPack[]) => api.upload({ name: 'x satchel.zip', bytes: zipOf(files) });

  it('holds the files, the map alone, the click, the marks and the slip', async () => {
    const made = await handOff(ferry, { receiver: 'no-program' });
    const files = await satchelOf(made);
    expect([...files.keys()].sort()).toEqual(
      [
        'click.wav',
        `files/${made.files[0]!.name}`,
        'map.csv',
        'map.mid',
        'satchel.json',
        'slip.html',
        'slip.txt',
      ].sort(),
    );
    expect(sha256(files.get(`files/${made.files[0]!.name}`)!)).toBe(made.files[0]!.sha256);
    expect(files.get('click.wav')!.subarray(0, 4).toString()).toBe('RIFF');
    expect(
      readIndependently(files.get('map.mid')!)
        .tracks.flat()
        .some((e) => /^\d+ 9/.test(e)),
    ).toBe(false);
    expect(files.get('map.csv')!.toString()).toContain('section,1.1.0');
  });

  it('to a collaborator opens as the song with its history, undo and parked lanes', async () => {
    const song = (await api.bring('capture.mid', demoFiles[2]!.bytes())).id;
    const parked = await api.step(song, 0, 'controllers.park', { lanes: [11] });
    expect(parked.status, JSON.stringify(parked.body)).toBe(200);
    await api.step(song, 1, 'tracks.rename', { name: 'Parked {n}' });
    const made = await handOff(song, { receiver: 'collaborator' });
    const { status, body } = await open(packed(await satchelOf(made)));
    expect(status, JSON.stringify(body)).toBe(201);
    const [there] = body.songs;
    expect(there!.id).not.toBe(song);
    const [was, is] = [await api.song(song), await api.song(there!.id)];
    expect(is.tracks).toEqual(was.tracks);
    expect(is.tracks.some((t) => (t.parked ?? []).length > 0)).toBe(true);
    const steps = async (id: string): Promise<string[]> =>
      (await api.send<{ steps: StepView[] }>('GET', `/api/songs/${id}/steps`)).body.steps.map(
        (s) => s.described,
      );
    expect(await steps(there!.id)).toEqual(await steps(song));
    expect((await api.send('POST', `/api/songs/${there!.id}/undo`, {})).status).toBe(200);
    expect((await api.send('POST', `/api/songs/${song}/undo`, {})).status).toBe(200);
    expect((await api.song(there!.id)).tracks).toEqual((await api.song(song)).tracks);
    const original = (id: string) => api.bytes(`/api/songs/${id}/original`);
    expect(sha256(await original(there!.id))).toBe(sha256(await original(song)));
  });

  it('without the song brings in the files of the handoff, and nothing that lies beside them', async () => {
    const made = await handOff(ferry, { receiver: 'groove-pack' });
    const { status, body } = await open(packed(await satchelOf(made)));
    expect([status, body.problems]).toEqual([201, []]);
    expect(body.songs.map((s) => s.fileName).sort()).toEqual(made.files.map((f) => f.name).sort());
  });

  it.each([
    [
      'a piece that its hash does not hold',
      'song/blobs.bin',
      (b: Buffer) => b.map((x, i) => (i === 40 ? x ^ 1 : x)),
      'satchel-unreadable',
    ],
    [
      'another original',
      'song/original',
      (b: Buffer) => Buffer.concat([b, Buffer.of(0)]),
      'satchel-unreadable',
    ],
    [
      'a list that was cut',
      'song/song.json',
      (b: Buffer) => b.subarray(0, b.length / 2),
      'satchel-unreadable',
    ],
    [
      'a path for a name',
      'song/song.json',
      (b: Buffer) => Buffer.from(b.toString().replace('"fileName":"', '"fileName":"../')),
      'satchel-unreadable',
    ],
    [
      'a newer song',
      'song/song.json',
      (b: Buffer) => Buffer.from(b.toString().replace('"version":1', '"version":7')),
      'satchel-newer',
    ],
    [
      'a newer layout',
      'satchel.json',
      (b: Buffer) => Buffer.from(b.toString().replace(/"version": ?1/, '"version": 9')),
      'satchel-newer',
    ],
    [
      'a head that is not there',
      'song/song.json',
      (b: Buffer) => Buffer.from(b.toString().replace(/"head":\d+/, '"head":99')),
      'satchel-unreadable',
    ],
  ])('with %s is refused by name, and nothing of it is taken', async (_, at, forge, code) => {
    const files = await satchelOf(await handOff(ferry, { receiver: 'collaborator' }));
    files.set(at, Buffer.from(forge(files.get(at)!)));
    const total = async (): Promise<number> =>
      (await api.send<{ total: number }>('GET', '/api/songs')).body.total;
    const before = await total();
    const { status, body } = await open(packed(files));
    expect([status, body.code]).toEqual([422, code]);
    expect(body.where.file).toContain(at);
    expect(await total()).toBe(before);
  });

  it('with a path that leads out of it, or an entry that says less than it is, is refused', async () => {
    const files = packed(await satchelOf(await handOff(ferry, { receiver: 'collaborator' })));
    const out = await open([...files, { name: '../evil.mid', bytes: Uint8Array.of(1) }]);
    expect([out.status, out.body.code]).toEqual([422, 'archive-unreadable']);
    const lies = await open(
      files.map((f) => (f.name === 'song/original' ? { ...f, stated: 5 } : f)),
    );
    expect(lies.status).toBeGreaterThanOrEqual(400);
    expect(lies.status).toBeLessThan(500);
  });
});

describe('a link', () => {
  /** A request by another name of the server, as somebody elsewhere asks. */
  const asked = (
    path: string,
    host = otherHost,
  ): Promise<{ status: number; type: string; text: string }> =>
    new Promise((resolve, reject) => {
      const { hostname, port } = new URL(server.address);
      request({ hostname, port, path, headers: { host } }, (response) => {
        let text = '';
        response.setEncoding('latin1').on('data', (d: string) => (text += d));
        response.on('end', () =>
          resolve({
            status: response.statusCode!,
            type: String(response.headers['content-type']),
            text,
          }),
        );
      })
        .on('error', reject)
        .end();
    });
  const linkTo = async (h: HandoffView, days?: number): Promise<NewLink> => {
    const { status, body } = await api.send<NewLink>(
      'POST',
      `/api/handoffs/${h.id}/links`,
      days ? { days } : {},
    );
    expect(status).toBe(201);
    return body;
  };

  it('opens one handoff by a name of the server, counts downloads, and ends when it is revoked', async () => {
    const made = await handOff(ferry, { divide: 'sections' });
    const link = await linkTo(made);
    expect(link.path).toMatch(/^\/l\/[\w-]{22}$/);
    expect(link.local).toBe(false);
    const page = await asked(link.path);
    expect([page.status, page.type]).toEqual([200, 'text/html; charset=utf-8']);
    expect(page.text).toContain('Lantern Ferry');
    const name = made.files[0]!.name;
    const file = await asked(`${link.path}/${encodeURIComponent(name)}`);
    expect(sha256(Buffer.from(file.text, 'latin1'))).toBe(made.files[0]!.sha256);
    expect((await asked(`${link.path}/files.zip`)).status).toBe(200);
    const satchel = await unpacked(
      Buffer.from((await asked(`${link.path}/satchel.zip`)).text, 'latin1'),
    );
    expect([...satchel.keys()].some((k) => k.startsWith('song/'))).toBe(false);
    const links = async () =>
      (
        await api.send<{ links: { downloads: number; revoked: boolean }[] }>(
          'GET',
          `/api/handoffs/${made.id}/links`,
        )
      ).body.links;
    expect((await links())[0]!.downloads).toBe(3);
    expect((await api.send('DELETE', `/api/handoffs/${made.id}/links/${link.id}`)).status).toBe(
      204,
    );
    expect((await asked(link.path)).status).toBe(404);
    expect((await asked(`${link.path}/files.zip`)).status).toBe(404);
    expect((await links())[0]!.revoked).toBe(true);
  });

  it('that has expired leads nowhere', async () => {
    const link = await linkTo(await handOff(ferry, {}), 1);
    expect((await asked(link.path)).status).toBe(200);
    const database = new Sequelize(server.databaseUrl, { logging: false });
    await database.query(
      "UPDATE handoff_links SET expires_at = now() - interval '1 second' WHERE id = :id",
      { replacements: { id: link.id } },
    );
    await database.close();
    expect((await asked(link.path)).status).toBe(404);
    expect((await asked(`${link.path}/slip.html`)).status).toBe(404);
  });

  it('that is guessed, of another handoff’s file, or of a removed song leads nowhere', async () => {
    const song = (await api.bring('sketch.mid', demoFiles[1]!.bytes())).id;
    const made = await handOff(song, {});
    const link = await linkTo(made);
    const guessed = `/l/${'A'.repeat(22)}`;
    for (const path of [
      guessed,
      '/l/short',
      `${link.path}x`,
      `${link.path}/other.mid`,
      `${link.path}/..%2Fsong.mid`,
    ])
      expect([path, (await asked(path)).status]).toEqual([path, 404]);
    expect((await asked(link.path, 'evil.example')).status).toBe(403);
    expect((await api.send('DELETE', `/api/songs/${song}`)).status).toBe(200);
    expect((await asked(link.path)).status).toBe(404);
    expect((await api.send('POST', `/api/songs/${song}/restore`)).status).toBe(200);
    expect((await asked(link.path)).status).toBe(200);
  });
});

it('what was handed off says for whom, and what was done to the song since', async () => {
  const song = (await api.bring('ramp.mid', demoFiles[4]!.bytes())).id;
  await api.step(song, 0, 'tracks.rename', { name: 'One' });
  await handOff(song, { receiver: 'sequencer' });
  await api.send('POST', `/api/songs/${song}/undo`, {});
  await api.step(song, 0, 'tracks.rename', { name: 'Two' });
  const { body } = await api.send<{ handoffs: HandoffView[] }>(
    'GET',
    `/api/songs/${song}/handoffs`,
  );
  expect(body.handoffs[0]!.receiver).toEqual({
    id: 'sequencer',
    name: 'Full sequencer',
    packed: 'files',
  });
  expect(body.handoffs[0]!.since!.map((s) => s.replace(/\d+/, 'N'))).toEqual([
    expect.stringMatching(/^Undone: Renamed/),
    expect.stringMatching(/^Renamed/),
  ]);
});
