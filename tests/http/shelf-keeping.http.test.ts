import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { QueryTypes, Sequelize } from 'sequelize';
import { clipListSchema, folderListSchema, type ClipView } from '#contracts/shelf.ts';
import { workedFormat0, workedFormat1 } from '#core/smf/worked-examples.ts';
import { demoFiles } from '#demo/files.ts';
import { Api } from '../support/api.ts';
import { freshServer, type RunningServer } from '../support/server.ts';

let server: RunningServer & { databaseUrl: string };
let api: Api;
let database: Sequelize;
beforeAll(async () => {
  // What was removed is purged two seconds later.
  server = await freshServer({
    SATCHEL_KEEP_REMOVED_DAYS: String(2 / 86_400),
    SATCHEL_PURGE_EVERY_S: '0.1',
  });
  api = new Api(server.address);
  database = new Sequelize(server.databaseUrl, { logging: false });
});
afterAll(async () => {
  await database.close();
  await server.stop();
});

async function put(folder: string, name: string, bytes: Uint8Array): Promise<ClipView | undefined> {
  const form = new FormData();
  form.append('file', new Blob([bytes.slice().buffer]), name);
  const address = `${server.address}/api/shelf/clips?folder=${encodeURIComponent(folder)}`;
  const response = await fetch(address, { method: 'POST', body: form });
  expect(response.status).toBe(201);
  return ((await response.json()) as { clips: ClipView[] }).clips[0];
}
const namesIn = async (folder: string): Promise<string[]> => {
  const found = await api.send('GET', `/api/shelf/clips?folder=${encodeURIComponent(folder)}`);
  return clipListSchema.parse(found.body).clips.map((c) => `${c.folder}: ${c.name}`);
};
const folders = async (): Promise<string[]> =>
  folderListSchema
    .parse((await api.send('GET', '/api/shelf/folders')).body)
    .folders.map((f) => `${f.path} ${f.clips}`);
const originals = async (): Promise<number> =>
  (
    await database.query<{ n: number }>('SELECT count(*)::int AS n FROM originals', {
      type: QueryTypes.SELECT,
    })
  )[0]!.n;
async function until(done: () => Promise<boolean>): Promise<void> {
  for (let n = 0; n < 600 && !(await done()); n++)
    await new Promise((resolve) => setTimeout(resolve, 100));
  expect(await done()).toBe(true);
}

describe('a folder of the shelf', () => {
  it('moves with all within it, and no folder whose name only begins alike', async () => {
    await put('Drums', 'one.mid', workedFormat0);
    await put('Drums/Fills', 'two.mid', workedFormat1);
    await put('Drums 2', 'three.mid', workedFormat0);
    await put('Drumsticks/Fills', 'four.mid', workedFormat1);
    expect(
      (await api.send('PUT', '/api/shelf/folders', { from: 'Drums', to: 'Beats/Old' })).status,
    ).toBe(200);
    expect(await folders()).toEqual([
      'Beats/Old 1',
      'Beats/Old/Fills 1',
      'Drums 2 1',
      'Drumsticks/Fills 1',
    ]);
    expect(await namesIn('Beats')).toHaveLength(2);
  });

  it('takes % and _ in its name as they are: they stand for no other letters', async () => {
    await put('a_c', 'five.mid', workedFormat0);
    await put('a_c/In', 'six.mid', workedFormat1);
    await put('abc/In', 'seven.mid', workedFormat1);
    await api.send('PUT', '/api/shelf/folders', { from: 'a_c', to: 'moved' });
    expect(await namesIn('abc')).toEqual(['abc/In: seven']);
    expect(await namesIn('moved')).toHaveLength(2);
  });

  it('goes into none of its own', async () => {
    const into = await api.send<{ code: string }>('PUT', '/api/shelf/folders', {
      from: 'moved',
      to: 'moved/Deeper',
    });
    expect([into.status, into.body.code]).toEqual([422, 'folder-into-itself']);
    expect(await namesIn('moved')).toHaveLength(2);
  });
});

describe('a clip that lies in another folder already', () => {
  it('is not moved there; once its twin is removed it is, and the twin is no more', async () => {
    const bytes = demoFiles[5]!.bytes();
    const here = (await put('Here', 'Groove.mid', bytes))!;
    const there = (await put('There', 'Twin.mid', bytes))!;
    const move = () =>
      api.send<{ code?: string; folder?: string }>('PUT', `/api/shelf/clips/${here.id}`, {
        folder: 'There',
      });
    const refused = await move();
    expect([refused.status, refused.body.code]).toEqual([409, 'clip-twin']);
    expect([await namesIn('Here'), await namesIn('There')]).toEqual([
      ['Here: Groove'],
      ['There: Twin'],
    ]);
    await api.send('DELETE', `/api/shelf/clips/${there.id}`);
    expect((await move()).body.folder).toBe('There');
    expect(await namesIn('There')).toEqual(['There: Groove']);
    expect((await api.send('POST', `/api/shelf/clips/${there.id}/restore`)).status).toBe(404);
  });
});

describe('the file of a clip', () => {
  it('outlives the song that came from the same file, and goes with the last clip of it', async () => {
    const bytes = demoFiles[1]!.bytes();
    const before = await originals();
    const song = await api.bring('source.mid', bytes);
    const clip = (await put('Kept', 'Sketch.mid', bytes))!;
    expect(await originals()).toBe(before + 1);
    await api.send('DELETE', `/api/songs/${song.id}`);
    await until(async () => (await api.send('GET', `/api/songs/${song.id}`)).status === 404);
    const gone = async () =>
      (await api.send<{ total: number }>('GET', '/api/songs?removed=true')).body.total === 0;
    await until(gone);
    expect(await namesIn('Kept')).toEqual(['Kept: Sketch']);
    expect(await originals()).toBe(before + 1);
    await api.send('DELETE', `/api/shelf/clips/${clip.id}`);
    await until(async () => (await originals()) === before);
    expect((await api.send('POST', `/api/shelf/clips/${clip.id}/restore`)).status).toBe(404);
  });
});

describe('redo', () => {
  it('goes the way that was taken last, step by step, where an older one was set aside', async () => {
    const { id } = await api.bring('redo.mid', workedFormat1);
    const step = async (name: string): Promise<void> => {
      const { revision } = await api.song(id);
      expect((await api.step(id, revision, 'tracks.rename', { name }, ['t2'])).status).toBe(200);
    };
    const nameOf = async (): Promise<string> => (await api.song(id)).tracks[1]!.name;
    const go = (way: 'undo' | 'redo') => api.send('POST', `/api/songs/${id}/${way}`, {});
    await step('A');
    await step('Old');
    await go('undo');
    await step('New');
    await step('Newer');
    for (let n = 0; n < 3; n++) await go('undo');
    const said: string[] = [];
    for (let n = 0; n < 3; n++) {
      await go('redo');
      said.push(await nameOf());
    }
    expect(said).toEqual(['A', 'New', 'Newer']);
    expect((await go('redo')).status).toBe(409);
  });
});
