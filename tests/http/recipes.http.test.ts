import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { recipeListSchema, recipeViewSchema, type RecipeView } from '#contracts/recipes.ts';
import type { ApiError } from '#contracts/errors.ts';
import { workedFormat1 } from '#core/smf/worked-examples.ts';
import { demoFiles } from '#demo/files.ts';
import { Api } from '../support/api.ts';
import { freshServer, type RunningServer } from '../support/server.ts';

let server: RunningServer;
let api: Api;
beforeAll(async () => {
  server = await freshServer();
  api = new Api(server.address);
});
afterAll(() => server.stop());

const list = async (): Promise<RecipeView[]> =>
  recipeListSchema.parse((await api.send('GET', '/api/recipes')).body).recipes;
const recipe = {
  name: 'Louder',
  about: 'All of it.',
  steps: [{ operation: 'velocity.set', settings: { add: 10 }, who: 'all' }],
};
const code = ({ status, body }: { status: number; body: unknown }): [number, string] => [
  status,
  (body as { code: string }).code,
];

describe('recipes', () => {
  it('are saved, changed, removed and restored; the shipped ones stand behind one’s own', async () => {
    expect((await list()).every((r) => r.shipped)).toBe(true);
    const saved = recipeViewSchema.parse((await api.send('POST', '/api/recipes', recipe)).body);
    expect((await list())[0]).toEqual({
      ...recipe,
      steps: [{ ...recipe.steps[0], version: 1 }],
      id: saved.id,
      shipped: false,
    });
    await api.send('PUT', `/api/recipes/${saved.id}`, { ...recipe, name: 'Much louder' });
    expect((await list())[0]!.name).toBe('Much louder');
    expect((await api.send('DELETE', `/api/recipes/${saved.id}`)).status).toBe(204);
    expect((await list()).some((r) => r.id === saved.id)).toBe(false);
    expect((await api.send('POST', `/api/recipes/${saved.id}/restore`)).status).toBe(200);
    expect((await list())[0]!.id).toBe(saved.id);
  });

  it('that are none are refused in plain words', async () => {
    expect(code(await api.send('POST', '/api/recipes', { ...recipe, steps: [] }))).toEqual([
      400,
      'settings-invalid',
    ]);
    expect(
      code(
        await api.send('POST', '/api/recipes', {
          ...recipe,
          steps: [{ operation: 'x', who: 'nobody' }],
        }),
      ),
    ).toEqual([400, 'settings-invalid']);
    expect(code(await api.send('PUT', '/api/recipes/notes-only', recipe))).toEqual([
      422,
      'recipe-shipped',
    ]);
    expect(
      code(await api.send('DELETE', '/api/recipes/00000000-0000-4000-8000-000000000000')),
    ).toEqual([404, 'recipe-unknown']);
    expect(code(await api.send('PUT', '/api/recipes/x', recipe))).toEqual([404, 'recipe-unknown']);
  });

  it('with a step that no song can take are refused by its name: kept, in a file, or run where nobody is meant', async () => {
    const good = { operation: 'events.keep-notes' };
    const cases = [
      [{ operation: 'song.vanish', who: 'drums' }, 'operation-unknown', 'song.vanish'],
      [{ operation: 'recipe.run' }, 'operation-unknown', 'recipe.run'],
      [{ operation: 'events.keep-notes', version: 99 }, 'settings-invalid', '99'],
    ] as const;
    const total = (await list()).length;
    for (const [bad, problem, found] of cases) {
      const steps = [good, bad];
      const file = { version: 1, recipes: [recipe, { ...recipe, steps }] };
      const answers = [
        await api.send('POST', '/api/recipes', { ...recipe, steps }),
        await api.send('POST', '/api/recipes/file', file),
      ];
      for (const { status, body } of answers)
        expect([status, body]).toMatchObject([400, { code: problem, found }]);
      expect((answers[1]!.body as ApiError).where.field).toContain('body.recipes.2.steps.2');
    }
    expect((await list()).length).toBe(total);
    // A song without drums: the step is unknown all the same.
    const { id } = await api.bring('a.mid', workedFormat1);
    const run = await api.step(id, 0, 'recipe.run', { name: 'x', steps: [good, cases[0][0]] });
    expect([run.status, run.body]).toMatchObject([
      400,
      { code: 'operation-unknown', where: { field: 'settings.steps.2' } },
    ]);
  });

  it('run as one step that undo takes back; for parts that are missing nothing is done', async () => {
    const file = demoFiles.find((f) => f.name === 'instrument capture.mid')!.bytes();
    const { id } = await api.bring('capture.mid', file);
    const shipped = (await list()).find((r) => r.id === 'another-instrument')!;
    const ran = await api.step(id, 0, 'recipe.run', { name: shipped.name, steps: shipped.steps });
    expect(ran.body).toMatchObject({ changed: true, revision: 1 });
    expect((await api.song(id)).undo).toBe(
      'Ran “Ready for another instrument”: 2 steps on 5 tracks',
    );
    const missing = await api.step(id, 1, 'recipe.run', {
      name: 'x',
      steps: [...shipped.steps, { operation: 'velocity.set', who: { named: ['Oboe'] } }],
    });
    expect([missing.status, missing.body.code, missing.body.where]).toEqual([
      422,
      'recipe-tracks-missing',
      { field: 'settings.steps.3' },
    ]);
    expect((await api.song(id)).revision).toBe(1);
    await api.send('POST', `/api/songs/${id}/undo`, {});
    expect((await api.handOff(id)).bytes).toEqual(file);
  });

  it('parked lanes are kept through the store, and unparked to the very bytes', async () => {
    const file = demoFiles.find((f) => f.name === 'instrument capture.mid')!.bytes();
    const { id } = await api.bring('capture.mid', file);
    await api.step(id, 0, 'controllers.park', { lanes: [7, 11, 'program'] });
    expect((await api.song(id)).tracks[1]!.parked).toEqual(['0:11', '0:program']);
    const parked = await api.handOff(id);
    expect(
      parked.handoff.slip.notes.some((n) => n.startsWith('Parked in Track 1 and not sent')),
    ).toBe(true);
    expect(parked.bytes.length).toBeLessThan(file.length);
    await api.step(id, 1, 'tracks.rename', { name: 'Part {n}' }, ['t2']);
    expect((await api.song(id)).tracks[1]!.parked).toEqual(['0:11', '0:program']);
    await api.send('POST', `/api/songs/${id}/undo`, {});
    await api.step(id, 1, 'controllers.unpark');
    expect((await api.handOff(id)).bytes).toEqual(file);
  });
});
