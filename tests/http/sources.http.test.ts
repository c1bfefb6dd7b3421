import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { QueryTypes, Sequelize } from 'sequelize';
import type { z } from 'zod';
import type { originalsSchema, SongList, SongView } from '#contracts/songs.ts';
import { demoFiles } from '#demo/files.ts';
import { Api } from '../support/api.ts';
import { readIndependently } from '../support/independent.ts';
import { freshServer, type RunningServer } from '../support/server.ts';

let server: RunningServer & { databaseUrl: string };
let api: Api;
let database: Sequelize;
beforeAll(async () => {
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

const groove = demoFiles[5]!.bytes();
const sketch = demoFiles[1]!.bytes();
const songs = async (query = ''): Promise<string[]> =>
  (await api.send<SongList>('GET', `/api/songs?${query}`)).body.songs.map((s) => s.id);
const originals = async (): Promise<string[]> =>
  (
    await database.query<{ sha256: string }>('SELECT sha256 FROM originals', {
      type: QueryTypes.SELECT,
    })
  ).map((o) => o.sha256);
const until = async (done: () => Promise<boolean>): Promise<void> => {
  for (let n = 0; n < 100 && !(await done()); n++)
    await new Promise((resolve) => setTimeout(resolve, 100));
  expect(await done()).toBe(true);
};
const withNotes = (song: SongView) => song.tracks.filter((t) => t.notes > 0);

describe('a step that takes from outside its song', () => {
  it('finds a file by its hash and a song by its revision alike, previews without keeping anything, and can be undone to the very bytes', async () => {
    const into = await api.bring('into.mid', sketch);
    const other = await api.song((await api.bring('other.mid', groove)).id);
    const wanted = withNotes(other)[0]!;
    const settings = {
      source: { original: other.original.sha256, called: 'other.mid' },
      tracks: [wanted.id],
      at: { bar: 3 },
    };
    const seen = await api.step(into.id, into.revision, 'tracks.bring-in', settings, 'all', true);
    expect(seen.body).toMatchObject({
      changed: true,
      preview: true,
      revision: into.revision,
      after: [{ notes: wanted.notes }],
    });
    const taken = await api.step(into.id, into.revision, 'tracks.bring-in', settings);
    // A look at what a revision would become is a look at that revision, and at no other.
    for (const other of [into.revision, into.revision + 50]) {
      const stale = await api.step(into.id, other, 'tracks.bring-in', settings, 'all', true);
      expect([stale.status, stale.body.code]).toEqual([409, 'revision-stale']);
    }
    expect(taken.body.described).toMatch(/^Brought in .* of “other.mid” at bar 3$/);
    const after = await api.song(into.id);
    await api.send('POST', `/api/songs/${into.id}/undo`, {});
    expect((await api.handOff(into.id)).bytes).toEqual(sketch);
    const again = await api.step(into.id, into.revision, 'tracks.bring-in', {
      ...settings,
      source: { song: other.id, revision: other.revision },
    });
    expect(again.status).toBe(200);
    expect((await api.song(into.id)).tracks.map((t) => t.sha256)).toEqual(
      after.tracks.map((t) => t.sha256),
    );
    // An independent reader finds as many notes more as the part had.
    const ons = (bytes: Uint8Array): number =>
      readIndependently(bytes)
        .tracks.flat()
        .filter((line) => / 9\w{3}(?!00)\w\w$/.test(line)).length;
    expect(ons((await api.handOff(into.id, 1)).bytes) - ons(sketch)).toBe(wanted.notes);
  });

  it('whose source is not stored is refused by name, with what to do', async () => {
    const into = await api.bring('into.mid', sketch);
    for (const source of [
      { original: 'f'.repeat(64), called: 'gone.mid' },
      { song: into.id, revision: 99, called: 'gone.mid' },
    ]) {
      const { status, body } = await api.step(into.id, into.revision, 'tracks.bring-in', {
        source,
      });
      expect([status, body.code, body.message]).toEqual([
        422,
        'source-missing',
        'What the step takes from is not here: “gone.mid”',
      ]);
    }
    expect(
      (
        await api.step(into.id, into.revision, 'tracks.bring-in', {
          source: { blank: 'The drums' },
        })
      ).body.message,
    ).toBe('Nothing is given for “The drums”');
    expect((await api.song(into.id)).revision).toBe(into.revision);
  });

  it('keeps it from being purged: the song it took from, and what that one took from, stay as long as it does', async () => {
    const [first, second, third] = [
      await api.bring('first.mid', groove),
      await api.bring('second.mid', sketch),
      await api.bring('third.mid', demoFiles[2]!.bytes()),
    ];
    const from = async (id: string) => ({ song: id, revision: (await api.song(id)).revision });
    await api.step(second.id, second.revision, 'recipe.run', {
      name: 'In',
      steps: [{ operation: 'tracks.bring-in', settings: { source: { blank: 'x' } } }],
      sources: { x: await from(first.id) },
    });
    await api.step(third.id, third.revision, 'tracks.bring-in', { source: await from(second.id) });
    for (const song of [first, second]) await api.send('DELETE', `/api/songs/${song.id}`);
    await new Promise((resolve) => setTimeout(resolve, 3000));
    expect(await songs('removed=true')).toEqual(expect.arrayContaining([first.id, second.id]));
    expect(
      (
        await api.step(third.id, (await api.song(third.id)).revision, 'tracks.bring-in', {
          source: { song: first.id, revision: first.revision },
        })
      ).status,
    ).toBe(200);
    await api.send('DELETE', `/api/songs/${third.id}`);
    await until(async () => (await songs('removed=true')).length === 0);
  });

  it('keeps the file: it is purged when the last that took from it is', async () => {
    const bytes = demoFiles[3]!.bytes();
    const [gone, stays] = [
      await api.song((await api.bring('gone.mid', bytes)).id),
      await api.bring('stays.mid', sketch),
    ];
    const { sha256 } = gone.original;
    await api.step(stays.id, stays.revision, 'tracks.bring-in', { source: { original: sha256 } });
    await api.send('DELETE', `/api/songs/${gone.id}`);
    await until(async () => !(await songs('removed=true')).includes(gone.id));
    expect(await originals()).toContain(sha256);
    await api.send('DELETE', `/api/songs/${stays.id}`);
    await until(async () => !(await originals()).includes(sha256));
  });
});

/** Files sent to be kept without being songs. */
async function keepFiles(...files: { name: string; bytes: Uint8Array }[]): Promise<{
  status: number;
  body: z.infer<typeof originalsSchema> & { code?: string };
}> {
  const form = new FormData();
  for (const f of files) form.append('file', new Blob([f.bytes.slice().buffer]), f.name);
  const response = await fetch(`${api.address}/api/originals`, { method: 'POST', body: form });
  return { status: response.status, body: (await response.json()) as never };
}

describe('files that are kept without being songs', () => {
  it('say what they hold as their songs would, by the hash of their bytes, and steps take from them', async () => {
    const bytes = demoFiles[4]!.bytes();
    const listed = await songs('limit=500');
    const { status, body } = await keepFiles(
      { name: 'ramp.mid', bytes },
      { name: 'notes.txt', bytes: new TextEncoder().encode('no music') },
    );
    const [kept] = body.originals;
    expect([status, body.originals.length, body.problems.map((p) => p.where.file)]).toEqual([
      201,
      1,
      ['notes.txt'],
    ]);
    expect(kept!.sha256).toBe(createHash('sha256').update(bytes).digest('hex'));
    expect(await songs('limit=500')).toEqual(listed);
    const song = await api.song((await api.bring('ramp.mid', bytes)).id);
    const [part] = kept!.parts;
    expect(part!.tracks).toEqual(song.tracks.map(({ sha256, ...track }) => track));
    expect([part!.timing, part!.division, part!.notes]).toEqual([
      song.timing,
      song.division,
      song.notes,
    ]);
    const again = await api.send<object>('GET', `/api/originals/${kept!.sha256}`);
    const { fileName, ...unnamed } = kept!;
    expect(again.body).toMatchObject({ sha256: unnamed.sha256, bytes: bytes.length });
    const into = await api.bring('into.mid', sketch);
    const taken = await api.step(into.id, into.revision, 'tracks.bring-in', {
      source: { original: kept!.sha256, called: fileName },
    });
    expect(taken.body.described).toMatch(/of “ramp.mid”$/);
  });

  it('are refused as files are, and are purged where nobody takes from them', async () => {
    expect((await keepFiles({ name: 'a.txt', bytes: Uint8Array.of(1, 2, 3) })).body.code).toBe(
      'not-midi',
    );
    expect((await keepFiles()).status).toBe(400);
    for (const hash of ['0'.repeat(64), 'x']) {
      const { status, body } = await api.send<{ code: string }>('GET', `/api/originals/${hash}`);
      expect([status, body.code]).toEqual([404, 'original-unknown']);
    }
    // A byte more than any file of the demo has: nothing else has these bytes.
    const { body } = await keepFiles({
      name: 'alone.mid',
      bytes: Uint8Array.from([...demoFiles[2]!.bytes(), 0]),
    });
    const { sha256 } = body.originals[0]!;
    expect(await originals()).toContain(sha256);
    await until(async () => !(await originals()).includes(sha256));
  });
});
