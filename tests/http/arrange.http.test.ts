import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoFiles } from '#demo/files.ts';
import type { ApiError } from '#contracts/errors.ts';
import type { StepResultView, StepView } from '#contracts/steps.ts';
import { Api } from '../support/api.ts';
import { watchAnswers } from '../support/as-described.ts';
import { freshServer, type RunningServer } from '../support/server.ts';

let server: RunningServer;
let api: Api;
beforeAll(async () => {
  watchAnswers();
  server = await freshServer();
  api = new Api(server.address);
});
afterAll(() => server.stop());

const bring = async (): Promise<string> => (await api.bring('ferry.mid', demoFiles[0]!.bytes())).id;
const step = (id: string, revision: number, operation: string, settings: object, scope: object) =>
  api.send<StepResultView & ApiError>('POST', `/api/songs/${id}/steps`, {
    operation,
    settings,
    scope,
    revision,
  });
const bars = (from: number, to = from) => ({ tracks: 'all', bars: { from, to } });

describe('bars over the API', () => {
  it('are cut, repeated and put in order, and say how time moved', async () => {
    const id = await bring();
    const cut = await step(id, 0, 'bars.cut', {}, bars(5, 8));
    expect([cut.status, cut.body.described]).toEqual([200, 'Cut out bars 5–8 and closed up']);
    expect(cut.body.moves?.song).toHaveLength(2);
    expect((await api.song(id)).timing.bars).toBe(116);
    const repeat = await step(id, 1, 'bars.repeat', { times: 2 }, bars(1, 2));
    expect(repeat.body.described).toBe('Repeated bars 1–2 2 times');
    const order = {
      order: [
        { from: 5, to: 120 },
        { from: 1, to: 4 },
      ],
    };
    expect((await step(id, 2, 'bars.order', order, { tracks: 'all' })).status).toBe(200);
    expect((await api.song(id)).timing.bars).toBe(120);
    const { body } = await api.send<{ steps: StepView[] }>('GET', `/api/songs/${id}/steps`);
    expect(body.steps.map((s) => s.operation)).toEqual(['bars.cut', 'bars.repeat', 'bars.order']);
  });

  it.each([
    ['bars.cut', {}, { tracks: 'all' }, 'scope-without-bars'],
    ['bars.cut', {}, bars(119, 121), 'bars-behind-end'],
    ['bars.move', { before: 6 }, bars(5, 8), 'bars-into-themselves'],
    ['bars.move', { before: 60 }, { ...bars(5, 8), tracks: ['t2'] }, 'bars-clash'],
    ['bars.cut', {}, { ...bars(5), tracks: ['t99'] }, 'scope-unknown-track'],
  ])('%s %o on %o is refused, and nothing is done', async (operation, settings, scope, code) => {
    const id = await bring();
    const { status, body } = await step(id, 0, operation, settings, scope);
    expect([status, body.code]).toEqual([400, code]);
    for (const said of [body.message, body.expected, body.found, body.remedy])
      expect(said.length).toBeGreaterThan(0);
    expect((await api.song(id)).revision).toBe(0);
  });
});

describe('events chosen by hand as a scope', () => {
  it('are worked on alone; rows of an older revision are refused by name', async () => {
    const id = await bring();
    const rows = { t2: [[10, 60]] };
    const done = await step(id, 0, 'velocity.set', { add: 5 }, { rows, revision: 0 });
    expect([done.status, done.body.changed]).toEqual([200, true]);
    expect(done.body.report.changes.map((c) => c.track)).toEqual(['t2']);
    const stale = await step(id, 1, 'velocity.set', { add: 5 }, { rows, revision: 0 });
    expect([stale.status, stale.body.code]).toEqual([409, 'scope-rows-stale']);
    const far = await step(id, 1, 'velocity.set', { add: 5 }, { rows: { t2: [[0, 9_999_999]] } });
    expect([far.status, far.body.code]).toEqual([400, 'settings-invalid']);
    const none = await step(id, 1, 'tracks.rename', { name: 'x' }, { rows });
    expect([none.status, none.body.code]).toEqual([400, 'scope-has-rows']);
    expect((await api.song(id)).revision).toBe(1);
  });
});
