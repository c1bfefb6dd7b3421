import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { findingListSchema, type FindingList } from '#contracts/findings.ts';
import { demoFiles } from '#demo/files.ts';
import { Api } from '../support/api.ts';
import { readIndependently } from '../support/independent.ts';
import { freshServer, type RunningServer } from '../support/server.ts';

let server: RunningServer;
let api: Api;
beforeAll(async () => {
  server = await freshServer();
  api = new Api(server.address);
});
afterAll(() => server.stop());

const demo = (name: string): Uint8Array => demoFiles.find((f) => f.name === name)!.bytes();
const look = async (id: string): Promise<FindingList> =>
  findingListSchema.parse((await api.send('GET', `/api/songs/${id}/findings`)).body);

describe('findings', () => {
  it('are none for the clean song', async () => {
    const { id } = await api.bring('clean.mid', demo('The Lantern Ferry.mid'));
    expect((await look(id)).findings).toEqual([]);
  });

  it('are settled by the steps they carry, until none is left; the notes stay where they were', async () => {
    const file = demo('instrument capture.mid');
    const { id } = await api.bring('capture.mid', file);
    for (let n = 0; n < 40; n++) {
      const { findings, revision } = await look(id);
      const step = findings[0]?.settle[0];
      if (!step) break;
      const answer = await api.send<{ changed: boolean }>('POST', `/api/songs/${id}/steps`, {
        ...step,
        title: undefined,
        revision,
      });
      expect([answer.status, answer.body.changed]).toEqual([200, true]);
    }
    expect((await look(id)).findings).toEqual([]);
    const notes = (bytes: Uint8Array): string[][] =>
      readIndependently(bytes).tracks.map((t) =>
        t.filter((e) => / [89]/.test(e)).map((e) => e.slice(0, -2)),
      );
    expect(notes((await api.handOff(id)).bytes)).toEqual(notes(file));
  });

  it('that are left alone stay so, over steps and restarts of the page, until taken up again', async () => {
    const { id } = await api.bring('sketch.mid', demo('phone sketch.mid'));
    const key = 'doubled t2 t3';
    expect(
      (await api.send('POST', `/api/songs/${id}/findings`, { key, leftAlone: true })).status,
    ).toBe(204);
    await api.step(id, 1, 'tracks.rename', { name: 'Voice' }, ['t2']);
    const of = async (): Promise<boolean | undefined> =>
      (await look(id)).findings.find((f) => f.key === key)?.leftAlone;
    expect(await of()).toBe(true);
    await api.send('POST', `/api/songs/${id}/findings`, { key, leftAlone: false });
    expect(await of()).toBe(false);
  });

  it('a preview shows the tracks as they would be', async () => {
    const { id } = await api.bring('sketch.mid', demo('phone sketch.mid'));
    const { body } = await api.send<{ after: { id: string; velocity: { distinct: number } }[] }>(
      'POST',
      `/api/songs/${id}/steps`,
      { operation: 'velocity.randomise', scope: { tracks: ['t2'] }, revision: 1, preview: true },
    );
    expect(body.after.map((t) => t.id)).toEqual(['t2']);
    expect(body.after[0]!.velocity.distinct).toBeGreaterThan(4);
  });

  it('refuses empty scopes and bars behind the end in plain words, nothing half done', async () => {
    const { id } = await api.bring('sketch.mid', demo('phone sketch.mid'));
    const step = (scope: object, operation = 'events.keep-notes') =>
      api.send<{ code: string; found: string }>('POST', `/api/songs/${id}/steps`, {
        operation,
        scope,
        revision: 1,
      });
    expect((await step({ tracks: 'all', bars: { from: 500, to: 600 } })).body).toMatchObject({
      code: 'scope-behind-end',
      found: 'bar 500',
    });
    expect((await step({ tracks: 'all', bars: { from: 5, to: 4 } })).body.code).toBe(
      'settings-invalid',
    );
    expect(
      (await step({ tracks: 'all', bars: { from: 1, to: 4 } }, 'notes.repair')).body.code,
    ).toBe('scope-has-bars');
    expect((await api.song(id)).revision).toBe(1);
  });
});
