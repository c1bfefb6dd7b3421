import { parseMidi } from 'midi-file';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoFiles } from '#demo/files.ts';
import type { ApiError } from '#contracts/errors.ts';
import type { ChordsView, KeysView } from '#contracts/harmony.ts';
import type { StepResultView } from '#contracts/steps.ts';
import { controller, songOf } from '../support/songs.ts';
import { writeSmf } from '#core/smf/write.ts';
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
const step = (
  id: string,
  revision: number,
  operation: string,
  settings: object,
  scope: object = { tracks: 'all' },
) =>
  api.send<StepResultView & ApiError>('POST', `/api/songs/${id}/steps`, {
    operation,
    settings,
    scope,
    revision,
  });
const chords = async (id: string, query = '') =>
  api.send<ChordsView & ApiError>('GET', `/api/songs/${id}/chords${query}`);
/** Texts of a file by npm midi-file. */
const textsOf = (bytes: Uint8Array): string[] =>
  parseMidi(bytes).tracks.flatMap((t) => t.flatMap((e) => (e.type === 'text' ? [e.text] : [])));

describe('harmony over the API', () => {
  it('tells the chords of all bars, or of some; and the keys of its sections', async () => {
    const id = await bring();
    const all = await chords(id);
    expect(all.status).toBe(200);
    expect(all.body.chords.length).toBeGreaterThan(90);
    const some = (await chords(id, '?from=17&to=20')).body.chords;
    expect(some.map((c) => `${c.bar} ${c.name}: ${c.notes.join(' ')}`)).toEqual([
      '17 F: F A C',
      '18 C: C E G',
      '19 Dm: D F A',
      '20 Gm: G Bb D',
    ]);
    // A chord that goes on into the bars that are asked for is one of theirs.
    expect((await chords(id, '?from=2&to=2')).body.chords.map((c) => c.name)).toEqual(['Dm']);
    expect((await chords(id, '?from=900')).body.chords).toEqual([]);
    const { body } = await api.send<KeysView>('GET', `/api/songs/${id}/keys`);
    expect(body.keys.map((k) => `${k.section} ${k.name} ${k.sharps}`)).toContain(
      'Paper moon waltz F major -1',
    );
  });

  it('a song without notes has none; what cannot be asked is refused', async () => {
    const empty = await api.bring(
      'empty.mid',
      writeSmf({ ...songOf([controller(0, 7, 90)]), format: 1 }),
    );
    expect((await chords(empty.id)).body.chords).toEqual([]);
    expect((await api.send<KeysView>('GET', `/api/songs/${empty.id}/keys`)).body.keys).toEqual([]);
    expect((await chords('nobody')).status).toBe(404);
    expect((await chords(empty.id, '?from=0')).status).toBe(400);
    expect((await chords(empty.id, '?tracks=t1')).status).toBe(400);
  });

  it('a chord line is written, sent or kept, and comes back as it went; what is no chord is refused with its bar', async () => {
    const id = await bring();
    const said = await step(
      id,
      0,
      'chords.set',
      { typed: 'Dm9 | Hx' },
      { tracks: 'all', bars: { from: 5, to: 6 } },
    );
    expect([said.status, said.body.code]).toEqual([400, 'chord-unreadable']);
    expect(said.body.message).toBe('“Hx” is no chord');
    expect(said.body.found).toBe('“Hx” in bar 6');
    const before = textsOf((await api.handOff(id)).bytes);
    expect((await step(id, 0, 'chords.set', { typed: 'Dm9 | Gm7 A7/C#' })).status).toBe(200);
    const sent = await api.handOff(id);
    expect(textsOf(sent.bytes).filter((t) => !before.includes(t))).toEqual([
      'chord: Dm9',
      'chord: Gm7',
      'chord: A7/C#',
      'chord: end',
    ]);
    const back = await api.bring('back.mid', sent.bytes);
    const line = async (song: string) =>
      (await api.song(song)).timing.chords.map((c) => `${c.position} ${c.text}`);
    expect(await line(back.id)).toEqual(await line(id));
    expect((await api.song(id)).timing.texts.map((t) => t.text)).not.toContain('chord: Dm9');
    // Kept here only.
    await step(id, 1, 'chords.set', { typed: 'Dm9 | Gm7 A7/C#', sent: false });
    const kept = await api.handOff(id);
    expect(textsOf(kept.bytes)).toEqual(before);
    expect(JSON.stringify(kept)).toContain('The chord line (3 chords) is kept here and not sent.');
  });

  it('parts are doubled and shared out, and undone to the very bytes', async () => {
    const id = await bring();
    const was = (await api.song(id)).tracks.map((t) => t.sha256);
    const accordion = (await api.song(id)).tracks.find((t) => t.name === 'Accordion')!.id;
    const doubled = await step(id, 0, 'notes.double', { name: 'Low' }, { tracks: [accordion] });
    expect(doubled.body.described).toMatch(/^Doubled \d+ notes on Low: octave down$/);
    const shared = await step(
      id,
      1,
      'notes.share',
      { by: 'shortest ways' },
      { tracks: [accordion] },
    );
    expect(shared.body.report.changes.filter((c) => c.did === 'added')).toHaveLength(3);
    await api.send('POST', `/api/songs/${id}/undo`, {});
    await api.send('POST', `/api/songs/${id}/undo`, {});
    expect((await api.song(id)).tracks.map((t) => t.sha256)).toEqual(was);
  });
});
