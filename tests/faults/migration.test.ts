import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { QueryTypes, Sequelize } from 'sequelize';
import { afterAll, describe, expect, it } from 'vitest';
import type { RecipeView } from '#contracts/recipes.ts';
import { demoFiles } from '#demo/files.ts';
import { Api } from '../support/api.ts';
import { root, startServer, testCluster, type RunningServer } from '../support/server.ts';

/** A database as servers left it before there were facts: manifests with a summary and without a version. */
const asBefore = [
  `UPDATE revisions SET manifest = (manifest - 'version') || jsonb_build_object('summary', jsonb_build_object('notes', 0, 'tracks', to_jsonb(array_fill(repeat('summary ', 40), ARRAY[40]))))`,
  'DROP TABLE preferences',
  'ALTER TABLE songs DROP COLUMN sought, DROP COLUMN tags, DROP COLUMN looked_at, DROP COLUMN open_findings',
  'DROP TABLE handoff_links',
  'DROP TABLE receivers',
  'ALTER TABLE handoffs DROP COLUMN receiver, DROP COLUMN files, DROP COLUMN slips, DROP COLUMN notes',
  'DROP TABLE shelf_clips',
  'DROP TABLE instruments',
  'DROP TABLE facts',
  'DROP TABLE source_uses',
  'ALTER TABLE originals DROP COLUMN received_at, DROP COLUMN source',
  'ALTER TABLE steps DROP COLUMN moves',
  `UPDATE recipes SET steps = (SELECT jsonb_agg(step - 'version') FROM jsonb_array_elements(steps) step)`,
  `DELETE FROM migrations WHERE name >= '0005'`,
];

const running: RunningServer[] = [];
afterAll(() => Promise.all(running.map((s) => s.stop())));
async function start(url: string): Promise<Api> {
  const server = await startServer(url, { SATCHEL_LOG: 'error' });
  running.push(server);
  return new Api(server.address);
}
const stopAll = (): Promise<unknown> => Promise.all(running.splice(0).map((s) => s.stop()));

describe('issue 11: a database of the version before', () => {
  it(
    'opens after a migration that was killed, by two servers at once; histories undo and redo to the very bytes, and recipes run',
    { timeout: 180_000 },
    async () => {
      const url = (await testCluster()).create(`migrate_${process.pid}_${Date.now()}`);
      const database = new Sequelize(url, { logging: false });
      const first = await start(url);
      const { id } = await first.bring('before.mid', demoFiles[0]!.bytes());
      const steps: [string, object][] = [
        ['velocity.set', { add: 5 }],
        ['notes.transpose', { semitones: 2 }],
        ['timing.tempo', { bpm: 91 }],
        ['tracks.rename', { name: 'New {n}' }],
      ];
      const files = [(await first.handOff(id, 1)).bytes];
      for (const [operation, settings] of steps) {
        const { status } = await first.step(
          id,
          (await first.song(id)).revision,
          operation,
          settings,
        );
        expect(status).toBe(200);
        files.push((await first.handOff(id, 1)).bytes);
      }
      const shown = await first.song(id);
      const oldSteps = [
        { operation: 'velocity.set', settings: { add: 1 }, who: 'all' },
        { operation: 'timing.tempo', settings: { bpm: 60, of: 'beat' }, who: 'all' },
      ];
      const recipe = (
        await first.send<RecipeView>('POST', '/api/recipes', {
          name: 'Louder',
          about: '',
          steps: oldSteps,
        })
      ).body;
      await stopAll();
      for (const statement of asBefore) await database.query(statement);
      await database.query(
        `WITH made AS (INSERT INTO songs (id, original, title, file_name, reading, head, created_at, updated_at)
        SELECT gen_random_uuid(), s.original, s.title, 'n.mid', '[]', 0, now(), now() FROM songs s, generate_series(1, 2000) n WHERE s.id = '${id}' RETURNING id)
      INSERT INTO revisions (song_id, number, parent, depth, overview, manifest) SELECT made.id, 0, NULL, 0, r.overview, r.manifest FROM made, revisions r WHERE r.song_id = '${id}' AND r.number = 0`,
      );
      const counted = async (where: string): Promise<number> =>
        (
          await database.query<{ n: number }>(
            `SELECT count(*)::int AS n FROM revisions WHERE ${where}`,
            { type: QueryTypes.SELECT },
          )
        )[0]!.n;

      // Killed as soon as some revisions are done.
      const env = {
        ...process.env,
        NODE_ENV: 'production',
        SATCHEL_PORT: '0',
        SATCHEL_DATA: mkdtempSync(path.join(tmpdir(), 'satchel-test-')),
        SATCHEL_DATABASE_URL: url,
        SATCHEL_LOG: 'silent',
      };
      const killed = spawn(process.execPath, [path.join(root, 'dist/server/index.js')], {
        cwd: root,
        env,
        stdio: 'ignore',
      });
      const ended = new Promise<void>((resolve) => killed.once('exit', () => resolve()));
      while ((await counted("manifest ? 'version'")) === 0)
        await new Promise((resolve) => setTimeout(resolve, 2));
      killed.kill('SIGKILL');
      await ended;

      const [one, two] = await Promise.all([start(url), start(url)]);
      expect(
        await counted("manifest ? 'summary' OR manifest->>'version' IS DISTINCT FROM '2'"),
      ).toBe(0);
      expect(await one.song(id)).toEqual(shown);
      for (let n = steps.length - 1; n >= 0; n--) {
        await two.send('POST', `/api/songs/${id}/undo`, {});
        expect((await one.handOff(id, 1)).bytes).toEqual(files[n]);
      }
      for (let n = 1; n <= steps.length; n++) {
        await one.send('POST', `/api/songs/${id}/redo`, {});
        expect((await two.handOff(id, 1)).bytes).toEqual(files[n]);
      }
      expect({ ...(await two.song(id)), updatedAt: shown.updatedAt }).toEqual(shown);
      // Its settings were those of the first versions: a beat was the note of the meter.
      const [kept] = (await one.send<{ recipes: RecipeView[] }>('GET', '/api/recipes')).body
        .recipes;
      expect(kept!.steps.map((s) => [s.operation, s.version, s.settings])).toEqual([
        ['velocity.set', 1, { add: 1 }],
        ['timing.tempo', 2, { bpm: 60, of: 'note of the meter' }],
      ]);
      const { status } = await one.step(id, shown.revision, 'recipe.run', {
        name: recipe.name,
        steps: recipe.steps,
      });
      expect(status).toBe(200);
      await database.close();
    },
  );
});
