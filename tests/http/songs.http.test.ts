import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ApiError } from '#contracts/errors.ts';
import { addressOf, addresses, type RouteName } from '#contracts/addresses.ts';
import { songSchema, uploadedSchema } from '#contracts/songs.ts';
import { stepListSchema } from '#contracts/steps.ts';
import { handoffSchema } from '#contracts/handoffs.ts';
import { bytesOf, workedFormat0, workedFormat1 } from '#core/smf/worked-examples.ts';
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

describe('bringing files in', () => {
  it('takes several at once, keeps each original byte for byte, names what was mended', async () => {
    const { status, body } = await api.upload(
      ...demoFiles.map((f) => ({ name: f.name, bytes: f.bytes() })),
    );
    expect(status).toBe(201);
    uploadedSchema.parse(body);
    expect(body.songs.map((s) => s.fileName)).toEqual(demoFiles.map((f) => f.name));
    expect(body.problems.map((p) => [p.code, p.where.file])).toEqual(
      ['chunk-length', 'data-byte-high', 'chunk-cut', 'end-of-track-missing'].map((code) => [
        code,
        'damaged copy.mid',
      ]),
    );
    for (const [i, f] of demoFiles.entries())
      expect(await api.bytes(`/api/songs/${body.songs[i]!.id}/original`)).toEqual(f.bytes());
  });

  it('shows a song with its tracks, what they carry and the timing, in the shape the API states', async () => {
    const { id } = await api.bring('The Lantern Ferry.mid', demo('The Lantern Ferry.mid'));
    const song = songSchema.parse(await api.song(id));
    expect(song.tracks).toHaveLength(13);
    expect(song.tracks[10]).toMatchObject({ name: 'Hand Drums', channel: 10, notes: 888 });
    expect(song.timing).toMatchObject({ bars: 120, startTimecode: '01:00:00:00', frameRate: 25 });
    expect(song.timing.markers.map((m) => `${m.position} ${m.text}`).slice(0, 3)).toEqual([
      '1.1.0 Mist',
      '15.1.0 Ferryman, row',
      '31.1.0 Glow, lanterns',
    ]);
  });

  it('gives a format 0 file a track for each channel, which undo takes back', async () => {
    const { id, tracks, revision } = await api.bring('sketch.mid', workedFormat0);
    expect([tracks, revision]).toEqual([4, 1]);
    expect((await api.send('POST', `/api/songs/${id}/undo`)).body).toMatchObject({ revision: 0 });
    expect((await api.song(id)).tracks).toHaveLength(1);
    expect((await api.handOff(id)).bytes).toEqual(workedFormat0);
  });

  it('gives back the very bytes of format 0 and 2 files whose channels take turns in any order', async () => {
    // Channels 3 and 1 by turns, an end of track later than the last event.
    const body = '00923C40 00903C40 00923E40 60903C00 00923C00 00923E00 60FF2F00';
    const track = `4D54726B ${(body.replace(/ /g, '').length / 2).toString(16).padStart(8, '0')} ${body}`;
    for (const format of ['0000 0001', '0002 0001']) {
      const file = bytesOf(`4D546864 00000006 ${format} 0060 ${track}`);
      const { id, tracks } = await api.bring('turns.mid', file);
      expect(tracks).toBe(3);
      const { bytes } = await api.handOff(id);
      expect(bytes.slice(14)).toEqual(file.slice(14));
    }
  });

  it('leaves a format 1 file with one track of many channels as it is', async () => {
    const one = workedFormat0.slice();
    one[9] = 1;
    const { id, tracks } = await api.bring('one.mid', one);
    expect(tracks).toBe(1);
    expect((await api.handOff(id)).bytes).toEqual(one);
  });

  it('takes texts with zero bytes, line ends and any length', async () => {
    const name = `${'41'.repeat(3)}00${'0A'}${'42'.repeat(120)}`;
    const body = `00FF03${(name.length / 2).toString(16).padStart(2, '0')}${name} 00FF0603 00410A 00FF2F00`;
    const file = bytesOf(
      `4D546864 00000006 0001 0001 0060 4D54726B ${(body.replace(/ /g, '').length / 2).toString(16).padStart(8, '0')} ${body}`,
    );
    const { id } = await api.bring('texts.mid', file);
    const song = await api.song(id);
    expect(song.tracks[0]!.name).toBe(`AAA ${'B'.repeat(120)}`);
    expect(song.timing.markers[0]!.text).toBe('A');
    expect((await api.handOff(id)).bytes).toEqual(file);
  });

  it('makes a song of each pattern of a format 2 file', async () => {
    const two = workedFormat1.slice();
    two[9] = 2;
    const { body } = await api.upload({ name: 'patterns.mid', bytes: two });
    expect(body.songs.map((s) => s.title)).toEqual(
      [1, 2, 3, 4].map((n) => `patterns · pattern ${n}`),
    );
  });

  it('takes the good files of a mixed lot and names the refused', async () => {
    const { status, body } = await api.upload(
      { name: 'good.mid', bytes: workedFormat1 },
      { name: 'bad.mid', bytes: new TextEncoder().encode('Hello, this is text') },
    );
    expect([status, body.songs.length]).toEqual([201, 1]);
    expect(body.problems).toMatchObject([
      { code: 'not-midi', where: { file: 'bad.mid' }, found: 'a text' },
    ]);
  });

  it('keeps names in other scripts as they are', async () => {
    const { id } = await api.bring('灯籠 ferry é.mid', workedFormat1);
    expect((await api.song(id)).title).toBe('灯籠 ferry é');
    const { handoff, bytes } = await api.handOff(id);
    expect(handoff.files[0]!.name).toBe('灯籠 ferry é.mid');
    expect(bytes).toEqual(workedFormat1);
  });
});

describe('steps', () => {
  it('renames, reorders and removes; the download holds exactly that difference', async () => {
    const file = demo('The Lantern Ferry.mid');
    const before = readIndependently(file).tracks;
    const { id } = await api.bring('The Lantern Ferry.mid', file);
    expect(
      (await api.step(id, 0, 'tracks.rename', { name: 'Lead vocal' }, ['t2'])).body,
    ).toMatchObject({ revision: 1, described: 'Renamed Voice to “Lead vocal”' });
    expect((await api.step(id, 1, 'tracks.remove', {}, ['t6', 't7'])).body.revision).toBe(2);
    expect((await api.step(id, 2, 'tracks.reorder', { before: 't3' }, ['t13'])).body.revision).toBe(
      3,
    );
    const { handoff, bytes } = await api.handOff(id);
    const name = Buffer.from('Lead vocal').toString('hex');
    const renamed = before[1]!.map((e) => (e.startsWith('0 ff03') ? `0 ff03 ${name}` : e));
    expect(readIndependently(bytes).tracks).toEqual([
      before[0],
      renamed,
      before[12],
      ...[2, 3, 4, 7, 8, 9, 10, 11].map((i) => before[i]),
    ]);
    expect(handoff.slip.proof.holds).toBe(true);
    expect(handoff.files[0]!.sha256).toBe(createHash('sha256').update(bytes).digest('hex'));
    expect(handoff.slip.removed.map((t) => t.name)).toEqual(['Marimba', 'Toy Piano']);
  });

  it('undo and redo move along the steps; a new step sets the undone ones aside, and nothing is lost', async () => {
    const { id } = await api.bring('a.mid', workedFormat1);
    await api.step(id, 0, 'tracks.rename', { name: 'One' }, ['t2']);
    await api.step(id, 1, 'tracks.rename', { name: 'Two' }, ['t2']);
    expect((await api.send('POST', `/api/songs/${id}/undo`, {})).body).toMatchObject({
      revision: 1,
    });
    expect((await api.song(id)).tracks[1]!.name).toBe('One');
    expect((await api.send('POST', `/api/songs/${id}/redo`, {})).body).toMatchObject({
      revision: 2,
    });
    await api.send('POST', `/api/songs/${id}/undo`, {});
    await api.step(id, 1, 'tracks.rename', { name: 'Three' }, ['t2']);
    const { steps, head } = stepListSchema.parse(
      (await api.send('GET', `/api/songs/${id}/steps`)).body,
    );
    expect(head).toBe(3);
    expect(steps.map((s) => [s.revision, s.parent, s.state])).toEqual([
      [1, 0, 'in force'],
      [2, 1, 'set aside'],
      [3, 1, 'in force'],
    ]);
    expect((await api.send('POST', `/api/songs/${id}/redo`, {})).status).toBe(409);
    for (let i = 0; i < 2; i++) await api.send('POST', `/api/songs/${id}/undo`, {});
    expect((await api.send('POST', `/api/songs/${id}/undo`, {})).body).toMatchObject({
      code: 'nothing-to-undo',
    });
    expect((await api.handOff(id)).bytes).toEqual(workedFormat1);
  });

  it('a preview says what would be done and keeps nothing', async () => {
    const { id } = await api.bring('a.mid', workedFormat1);
    expect((await api.step(id, 0, 'tracks.remove', {}, ['t2'], true)).body).toMatchObject({
      preview: true,
      changed: true,
      revision: 0,
      report: { changes: [{ did: 'removed', counts: { note: 1, program: 1 } }] },
    });
    expect((await api.song(id)).revision).toBe(0);
  });

  it('of two steps on the same revision one is taken, the other learns the newer head', async () => {
    const { id } = await api.bring('a.mid', workedFormat1);
    const answers = await Promise.all(
      ['A', 'B', 'C', 'D'].map((name) => api.step(id, 0, 'tracks.rename', { name }, ['t2'])),
    );
    expect(answers.map((a) => a.status).sort()).toEqual([200, 409, 409, 409]);
    expect(answers.find((a) => a.status === 409)!.body).toMatchObject({
      code: 'revision-stale',
      head: 1,
    });
    expect((await api.song(id)).revision).toBe(1);
  });

  it('a step that changes nothing makes no revision', async () => {
    const { id } = await api.bring('a.mid', workedFormat1);
    await api.step(id, 0, 'tracks.rename', { name: 'Same' }, ['t2']);
    expect((await api.step(id, 1, 'tracks.rename', { name: 'Same' }, ['t2'])).body).toMatchObject({
      changed: false,
      revision: 1,
    });
  });
});

describe('handing off', () => {
  it('writes formats 0 and 1 that the independent reader reads alike', async () => {
    const file = demo('phone sketch.mid');
    const { id } = await api.bring('phone sketch.mid', file);
    expect((await api.handOff(id, 0)).bytes).toEqual(file);
    const one = readIndependently((await api.handOff(id, 1)).bytes);
    expect([one.format, one.tracks.length]).toEqual([1, 5]);
    const withoutEnd = (events: readonly string[]): string[] =>
      events.filter((e) => !e.endsWith('ff2f')).sort();
    expect(withoutEnd(one.tracks.flat())).toEqual(
      withoutEnd(readIndependently(file).tracks.flat()),
    );
  });

  it('keeps what was made, with its slip as a text', async () => {
    const { id } = await api.bring('a.mid', workedFormat1);
    const { handoff } = await api.handOff(id);
    handoffSchema.parse(handoff);
    const slip = new TextDecoder().decode(await api.bytes(`/api/handoffs/${handoff.id}/slip`));
    expect(slip).toContain('The file is byte for byte the one received.');
    expect(
      (await api.send<{ handoffs: unknown[] }>('GET', `/api/songs/${id}/handoffs`)).body.handoffs,
    ).toHaveLength(1);
  });
});

describe('events of a track', () => {
  it('are fetched by the hash that the song names, as the body of its MTrk chunk, and other hashes are unknown', async () => {
    const { id } = await api.bring('a.mid', workedFormat1);
    const { tracks } = await api.song(id);
    // The body of the second track in the worked example: 16 bytes behind two chunk heads and the first body.
    expect(await api.bytes(`/api/blobs/${tracks[1]!.sha256}`)).toEqual(
      workedFormat1.slice(14 + 8 + 20 + 8, 14 + 8 + 20 + 8 + 16),
    );
    const all = await fetch(`${api.address}/api/blobs`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ hashes: tracks.map((t) => t.sha256).reverse() }),
    });
    // The chunks of the file, head and all, the last first.
    const chunks = new Uint8Array(await all.arrayBuffer());
    expect(chunks.slice(-28)).toEqual(workedFormat1.slice(14, 14 + 28));
    expect(chunks).toHaveLength(workedFormat1.length - 14);
    expect(
      (await api.send<ApiError>('POST', '/api/blobs', { hashes: ['0'.repeat(64)] })).body.code,
    ).toBe('blob-unknown');
    expect((await api.send('POST', '/api/blobs', { hashes: [] })).status).toBe(400);
    for (const hash of ['0'.repeat(64), 'x', '..%2f'])
      expect((await api.send('GET', `/api/blobs/${hash}`)).status).toBe(404);
  });
});

describe('removing songs', () => {
  it('hides a removed song until it is brought back', async () => {
    const { id } = await api.bring('a.mid', workedFormat1);
    expect((await api.send('DELETE', `/api/songs/${id}`)).status).toBe(200);
    expect((await api.send('GET', `/api/songs/${id}`)).status).toBe(404);
    expect((await api.step(id, 0, 'tracks.rename', { name: 'X' }, ['t2'])).status).toBe(404);
    const removed = await api.send<{ songs: { id: string }[] }>('GET', '/api/songs?removed=true');
    expect(removed.body.songs.map((s) => s.id)).toContain(id);
    expect((await api.send('POST', `/api/songs/${id}/restore`)).status).toBe(200);
    expect((await api.song(id)).id).toBe(id);
  });
});

describe('the description of the API', () => {
  it('names every route, and every operation with a JSON Schema', async () => {
    const { body } = await api.send<{
      openapi: string;
      paths: Record<string, Record<string, unknown>>;
    }>('GET', '/api/openapi.json');
    expect(body.openapi).toBe('3.1.0');
    for (const name of Object.keys(addresses) as RouteName[]) {
      const { method, path } = addressOf(name);
      expect(body.paths[path]?.[method.toLowerCase()], name).toMatchObject({ operationId: name });
    }
    const listed = await api.send<{
      operations: { id: string; settings: { type: string; additionalProperties: boolean } }[];
    }>('GET', '/api/operations');
    expect(listed.body.operations.map((o) => o.id)).toContain('tracks.rename');
    for (const o of listed.body.operations)
      expect(o.settings).toMatchObject({ type: 'object', additionalProperties: false });
  });
});
