import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { preferencesSchema } from '#contracts/preferences.ts';
import { recipeFileSchema, recipesTakenSchema } from '#contracts/recipes.ts';
import { Api } from '../support/api.ts';
import { freshServer, type RunningServer } from '../support/server.ts';

let server: RunningServer;
let api: Api;
beforeAll(async () => {
  server = await freshServer();
  api = new Api(server.address);
});
afterAll(() => server.stop());

const kept = async () => preferencesSchema.parse((await api.send('GET', '/api/preferences')).body);

describe('what the reader prefers', () => {
  it('is kept as a whole, and as it comes where nothing was', async () => {
    expect(await kept()).toEqual({ keys: {}, lately: [], used: [], intakes: [] });
    const own = {
      theme: 'night',
      middleC: 3,
      keys: { play: 'J' },
      lately: ['Event list'],
      used: ['notes'],
      intakes: [
        {
          name: 'Notes alone',
          take: {
            controllers: false,
            mix: false,
            programs: false,
            exclusive: false,
            lyrics: true,
            texts: true,
          },
          keep: 'seconds',
          how: 'replace',
        },
      ],
    };
    expect((await api.send('PUT', '/api/preferences', own)).status).toBe(200);
    expect(await kept()).toEqual(own);
    expect((await api.send('PUT', '/api/preferences', {})).status).toBe(200);
    expect(await kept()).toEqual({ keys: {}, lately: [], used: [], intakes: [] });
  });

  it('names what has a key already; keys of browsers, commands that are none and other values are refused', async () => {
    const put = (keys: object) =>
      api.send<Record<string, unknown>>('PUT', '/api/preferences', { keys });
    expect(await put({ 'go-notes': 'P' })).toMatchObject({
      status: 409,
      body: {
        code: 'key-clash',
        where: { field: 'keys.go-notes' },
        message: 'The key P cannot be “Go to: Notes”: “Play or pause” has it',
      },
    });
    expect(await put({ undo: 'Ctrl+T' })).toMatchObject({
      status: 409,
      body: { code: 'key-clash' },
    });
    expect((await put({ 'no-command': 'J' })).status).toBe(400);
    expect((await put({ undo: 'x'.repeat(100) })).status).toBe(400);
    expect((await api.send('PUT', '/api/preferences', { middleC: 9 })).status).toBe(400);
    const nameless = [{ name: ' ', take: {}, keep: 'bars', how: 'merge' }];
    expect((await api.send('PUT', '/api/preferences', { intakes: nameless })).status).toBe(400);
    expect((await kept()).keys).toEqual({});
  });

  it('goes along with one’s own recipes as a file, which is taken whole or not at all, and once', async () => {
    const recipe = {
      name: 'Louder',
      about: '',
      steps: [{ operation: 'velocity.set', settings: { add: 10 }, who: 'all' }],
    };
    await api.send('POST', '/api/recipes', recipe);
    await api.send('PUT', '/api/preferences', { keys: { loop: 'J' } });
    const file = recipeFileSchema.parse((await api.send('GET', '/api/recipes/file')).body);
    expect(file.recipes.map((r) => r.name)).toEqual(['Louder']);
    expect(file.preferences!.keys).toEqual({ loop: 'J' });
    const alone = recipeFileSchema.parse(
      (await api.send('GET', '/api/recipes/file?preferences=false')).body,
    );
    expect(alone.preferences).toBeUndefined();
    // Here all of it is there already.
    await api.send('PUT', '/api/preferences', {});
    const again = await api.send('POST', '/api/recipes/file', file);
    expect([again.status, recipesTakenSchema.parse(again.body)]).toEqual([
      201,
      { recipes: [], had: 1, preferences: true },
    ]);
    expect((await kept()).keys).toEqual({ loop: 'J' });
    // A key that clashes stops all of it.
    const clashing = {
      ...file,
      recipes: [{ ...recipe, name: 'Another' }],
      preferences: { keys: { loop: 'P' } },
    };
    expect((await api.send('POST', '/api/recipes/file', clashing)).status).toBe(409);
    const { recipes } = (await api.send<{ recipes: { name: string }[] }>('GET', '/api/recipes'))
      .body;
    expect(recipes.some((r) => r.name === 'Another')).toBe(false);
    const taken = await api.send('POST', '/api/recipes/file', {
      ...clashing,
      preferences: undefined,
    });
    expect(recipesTakenSchema.parse(taken.body).recipes.map((r) => r.name)).toEqual(['Another']);
  });
});
