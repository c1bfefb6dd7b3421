import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { parseMidi } from 'midi-file';
import type { StepResultView } from '#contracts/steps.ts';
import { placesOf, type Moves } from '#core/timing/time-map.ts';
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

const ferry = demoFiles[0]!.bytes();
const step = (id: string, revision: number, operation: string, settings: object, scope: object) =>
  api.send<StepResultView>('POST', `/api/songs/${id}/steps`, {
    operation,
    settings,
    scope,
    revision,
  });
const all = { tracks: 'all' };
const go = (id: string, to: number) =>
  api.send<{ revision: number; described: string; moves?: Moves; code?: string }>(
    'POST',
    `/api/songs/${id}/go`,
    { to },
  );

describe('the history', () => {
  it('goes to any revision at once, also one that was set aside, with the very bytes it had', async () => {
    const { id } = await api.bring('ferry.mid', ferry);
    const files = [(await api.handOff(id)).bytes];
    for (const [n, semitones] of [1, 2, 3].entries()) {
      expect((await step(id, n, 'notes.transpose', { semitones }, all)).status).toBe(200);
      files.push((await api.handOff(id)).bytes);
    }
    // A step from the first sets the others aside.
    expect((await go(id, 1)).body).toMatchObject({ revision: 1 });
    expect((await step(id, 1, 'notes.transpose', { semitones: -5 }, all)).body.revision).toBe(4);
    for (const to of [3, 0, 2, 1]) {
      expect((await go(id, to)).status).toBe(200);
      expect((await api.handOff(id)).bytes).toEqual(files[to]);
    }
    expect((await go(id, 0)).body.described).toBe('as received');
    expect((await go(id, 17)).body.code).toBe('revision-unknown');
    expect((await go(id, 17)).status).toBe(404);
  });

  it('says how time moved on the whole way, as the single ways do one after the other', async () => {
    const { id } = await api.bring('ferry.mid', ferry);
    const bars = (from: number, to: number) => ({ tracks: 'all', bars: { from, to } });
    expect((await step(id, 0, 'bars.cut', {}, bars(5, 8))).status).toBe(200);
    expect((await step(id, 1, 'bars.cut', {}, bars(1, 2))).status).toBe(200);
    // Six bars of four quarters are gone before bar 21, that now is bar 15.
    const ppq = parseMidi(ferry).header.ticksPerBeat!;
    const bar = (n: number): number => (n - 1) * 4 * ppq;
    const back = (await go(id, 0)).body.moves!;
    expect(placesOf(back.song, bar(11))).toEqual([bar(17)]);
    const there = (await go(id, 2)).body.moves!;
    expect(placesOf(there.song, bar(17))).toEqual([bar(11)]);
  });

  it('goes from one way to another by where they part: what lies before that does not move', async () => {
    const { id } = await api.bring('ferry.mid', ferry);
    expect((await step(id, 0, 'timing.lead-in', { bars: 2 }, all)).status).toBe(200);
    expect((await step(id, 1, 'notes.transpose', { semitones: 1 }, all)).body.revision).toBe(2);
    await go(id, 1);
    expect((await step(id, 1, 'notes.transpose', { semitones: 2 }, all)).body.revision).toBe(3);
    const over = (await go(id, 2)).body;
    expect([over.revision, over.moves]).toEqual([2, undefined]);
    expect((await go(id, 0)).body.moves).toBeDefined();
  });

  it('tells the bars in which each step changed something', async () => {
    const { id } = await api.bring('ferry.mid', ferry);
    await step(id, 0, 'velocity.set', { add: -3 }, { tracks: 'all', bars: { from: 15, to: 18 } });
    await step(id, 1, 'timing.marker', { text: 'Here', bar: 40 }, all);
    const at = (revision: number | string) =>
      api.send<{ bars: object[]; tracks: string[] }>(
        'GET',
        `/api/songs/${id}/steps/${revision}/bars`,
      );
    expect((await at(1)).body.bars).toEqual([{ from: 15, to: 18 }]);
    expect((await at(2)).body).toEqual({ bars: [{ from: 40, to: 40 }], tracks: ['t1'] });
    for (const none of [0, 9, 'x', '1e3', '-1']) expect((await at(none)).status).toBe(404);
  });
});

describe('the list of songs', () => {
  it('has tags, open findings and the last handoff', async () => {
    const capture = demoFiles.find((f) => f.name.startsWith('instrument'))!;
    const { id } = await api.bring(capture.name, capture.bytes());
    interface Listed {
      readonly id: string;
      readonly tags: string[];
      readonly openFindings?: number;
      readonly handedOff?: { revision: number };
    }
    const listed = async (search = ''): Promise<Listed | undefined> =>
      (await api.send<{ songs: Listed[] }>('GET', `/api/songs?search=${search}`)).body.songs.find(
        (s) => s.id === id,
      );
    expect(await listed()).toMatchObject({ tags: [] });
    expect((await listed())!.openFindings).toBeUndefined();
    const { findings } = (
      await api.send<{ findings: { key: string }[] }>('GET', `/api/songs/${id}/findings`)
    ).body;
    expect((await listed())!.openFindings).toBe(findings.length);
    await api.send('POST', `/api/songs/${id}/findings`, { key: findings[0]!.key, leftAlone: true });
    await api.send('GET', `/api/songs/${id}/findings`);
    expect((await listed())!.openFindings).toBe(findings.length - 1);
    // Of another revision nothing is known yet.
    const { status } = await api.step(id, 0, 'notes.transpose', { semitones: 1 });
    expect(status).toBe(200);
    expect((await listed())!.openFindings).toBeUndefined();
    await api.handOff(id);
    expect((await listed())!.handedOff).toMatchObject({ revision: 1 });
    const tags = ['for Mara', 'check 100 %', 'for Mara'];
    expect((await api.send('PUT', `/api/songs/${id}/tags`, { tags })).body).toEqual({
      tags: ['for Mara', 'check 100 %'],
    });
    expect(await listed('mara')).toBeDefined();
    expect(await listed(encodeURIComponent('100 %'))).toBeDefined();
    expect(await listed('nobody')).toBeUndefined();
    expect((await api.send('PUT', `/api/songs/${id}/tags`, { tags: [''] })).status).toBe(400);
  });
});
