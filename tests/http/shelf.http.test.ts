import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  clipListSchema,
  clipsAddedSchema,
  folderListSchema,
  type ClipView,
} from '#contracts/shelf.ts';
import { demoFiles } from '#demo/files.ts';
import { demoGrooves } from '#demo/grooves.ts';
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

async function put(folder: string, files: readonly (readonly [string, Uint8Array])[]) {
  const form = new FormData();
  for (const [name, bytes] of files) form.append('file', new Blob([bytes.slice().buffer]), name);
  const response = await fetch(
    `${server.address}/api/shelf/clips?folder=${encodeURIComponent(folder)}`,
    { method: 'POST', body: form },
  );
  return { status: response.status, body: (await response.json()) as unknown };
}
const list = async (query = '') =>
  clipListSchema.parse((await api.send('GET', `/api/shelf/clips${query}`)).body);
const folders = async () =>
  folderListSchema.parse((await api.send('GET', '/api/shelf/folders')).body).folders;
const names = (clips: readonly ClipView[]): string[] => clips.map((c) => c.name);

describe('the shelf', () => {
  it('takes files into folders, each once, and finds them by words, kind, meter, tempo, length and what plays them', async () => {
    for (const groove of demoGrooves) {
      const { status, body } = await put(groove.folder, [[groove.name, groove.bytes()]]);
      expect(status).toBe(201);
      expect(clipsAddedSchema.parse(body)).toMatchObject({ twins: 0, problems: [] });
    }
    // The same from several sides at once is one clip.
    const twice = await Promise.all(
      [1, 2, 3].map(() => put('At once', [['Same groove.mid', demoGrooves[9]!.bytes()]])),
    );
    expect(twice.map((t) => t.status)).toEqual([201, 201, 201]);
    const [once] = (await list('?folder=At%20once')).clips;
    expect((await list('?folder=At%20once')).total).toBe(1);
    await api.send('DELETE', `/api/shelf/clips/${once!.id}`);
    const [first] = demoGrooves;
    expect((await put(first!.folder, [[first!.name, first!.bytes()]])).body).toMatchObject({
      clips: [],
      twins: 1,
    });
    const all = await list();
    expect(all.total).toBe(demoGrooves.length);
    expect(all.meters).toEqual(['3/4', '4/4', '6/8', '7/8']);
    expect((await list('?search=waltz')).total).toBe(1);
    expect((await list('?search=seven%20fill')).total).toBe(2);
    expect((await list('?search=100%25')).total).toBe(0);
    expect(names((await list('?kind=ending&meter=6/8')).clips)).toEqual(['Ashore ending']);
    const fast = (await list('?slowest=140&fastest=150&sort=bpm&descending=true')).clips;
    expect(fast.map((c) => c.bpm)).toEqual([...fast.map((c) => c.bpm)].sort((a, b) => b - a));
    expect(fast.length).toBeGreaterThan(2);
    expect((await list('?mostBars=1')).clips.every((c) => c.kind === 'fill')).toBe(true);
    expect((await list('?drums=false')).total).toBe(0);
    expect((await list('?folder=Ferry%20kit/In%20three')).total).toBe(7);
    expect((await list('?folder=Ferry%20kit')).total).toBe(28);
    expect((await list('?from=20&limit=5')).clips).toHaveLength(5);
  });

  it('clips of one name in a folder are told apart by numbers, however many there are', async () => {
    for (const n of [0, 1, 2, 3])
      expect((await put('Names', [['Beat.mid', demoGrooves[n]!.bytes()]])).status).toBe(201);
    const { clips } = await list('?folder=Names');
    expect(names(clips).sort()).toEqual(['Beat', 'Beat 2', 'Beat 3', 'Beat 4']);
    for (const { id } of clips) await api.send('DELETE', `/api/shelf/clips/${id}`);
  });

  it('changes names, folders, tags and kinds, never bytes; moves folders, not into themselves', async () => {
    const [clip] = (await list('?search=Weir')).clips;
    const change = (body: object) => api.send('PUT', `/api/shelf/clips/${clip!.id}`, body);
    const changed = await change({
      name: 'Weir two',
      tags: ['wet'],
      kind: 'other',
      folder: ' A / B ',
    });
    expect(changed.body).toMatchObject({ name: 'Weir two', folder: 'A/B', sha256: clip!.sha256 });
    expect((await list('?search=wet')).total).toBe(1);
    const file = await fetch(`${server.address}/api/originals/${clip!.sha256}/file`);
    const bytes = new Uint8Array(await file.arrayBuffer());
    expect(createHash('sha256').update(bytes).digest('hex')).toBe(clip!.sha256);
    expect((await change({ name: 'x'.repeat(300) })).status).toBe(400);
    expect(
      (await api.send('PUT', '/api/shelf/folders', { from: 'A', to: 'A/B/C' })).body,
    ).toMatchObject({
      code: 'folder-into-itself',
    });
    await api.send('PUT', '/api/shelf/folders', { from: 'A', to: 'Ferry kit/In six/Wet' });
    expect((await folders()).map((f) => f.path)).toContain('Ferry kit/In six/Wet/B');
    expect((await folders()).map((f) => f.path)).not.toContain('A/B');
  });

  it('has no folders named . or .., however they come', async () => {
    const [clip] = (await list()).clips;
    const bytes = demoGrooves[1]!.bytes();
    for (const to of ['..', '.', 'Drums/../Brass', 'Drums/ . /x']) {
      const ways = [
        put(to, [['groove.mid', bytes]]),
        api.send('PUT', `/api/shelf/clips/${clip!.id}`, { folder: to }),
        api.send('PUT', '/api/shelf/folders', { from: clip!.folder, to }),
        api.send('POST', '/api/shelf/cut', { song: 's', tracks: 'all', name: 'x', folder: to }),
      ];
      for (const { status, body } of await Promise.all(ways))
        expect([to, status, body]).toMatchObject([to, 400, { code: 'settings-invalid' }]);
    }
    expect((await folders()).some(({ path }) => /(^|\/)\.{1,2}(\/|$)/.test(path))).toBe(false);
  });

  it('takes a clip off and puts it back; what is not there is said', async () => {
    const [clip] = (await list('?search=Splash')).clips;
    expect((await api.send('DELETE', `/api/shelf/clips/${clip!.id}`)).status).toBe(204);
    expect((await list('?search=Splash')).total).toBe(0);
    expect((await api.send('DELETE', `/api/shelf/clips/${clip!.id}`)).status).toBe(404);
    await api.send('POST', `/api/shelf/clips/${clip!.id}/restore`);
    expect((await list('?search=Splash')).total).toBe(1);
    expect((await api.send('PUT', '/api/shelf/clips/no', { name: 'x' })).status).toBe(404);
  });

  it('cuts bars of a song bar-exact, with what is in force, into a folder; the same again is said', async () => {
    const { id } = await api.bring('ferry.mid', demoFiles[0]!.bytes());
    const { tracks } = await api.song(id);
    const drums = tracks.find((t) => t.channel === 10)!;
    const body = {
      song: id,
      tracks: [drums.id],
      bars: { from: 39, to: 40 },
      name: 'Market',
      folder: 'Cut',
    };
    const cut = await api.send('POST', '/api/shelf/cut', body);
    expect(cut.body).toMatchObject({
      bars: 2,
      meter: '7/8',
      bpm: 138,
      drums: true,
      kind: 'groove',
    });
    const { sha256 } = cut.body as ClipView;
    const file = await fetch(`${server.address}/api/originals/${sha256}/file`);
    const read = readIndependently(new Uint8Array(await file.arrayBuffer()));
    const ons = read.tracks.flat().filter((l) => / 99/.test(l) && !l.endsWith('00'));
    expect(ons).toHaveLength((cut.body as ClipView).notes);
    expect((await api.send('POST', '/api/shelf/cut', body)).status).toBe(409);
    expect((await api.send('POST', '/api/shelf/cut', { ...body, song: 'no' })).status).toBe(404);
    const behind = await api.send('POST', '/api/shelf/cut', {
      ...body,
      bars: { from: 900, to: 901 },
    });
    expect(behind.body).toMatchObject({ code: 'scope-behind-end' });
    const nobody = await api.send('POST', '/api/shelf/cut', { ...body, tracks: ['t99'] });
    expect(nobody.body).toMatchObject({ code: 'scope-unknown-track' });
  });

  it('files that are none are said once, and the rest is there', async () => {
    const { status, body } = await put('Odd', [
      ['not.mid', Uint8Array.of(1, 2, 3)],
      ['Fine groove.mid', demoGrooves[3]!.bytes()],
    ]);
    expect(status).toBe(201);
    const { clips, problems } = clipsAddedSchema.parse(body);
    expect(names(clips)).toEqual(['Fine groove']);
    expect(problems.map((p) => p.where.file)).toEqual(['not.mid']);
    expect((await put('Odd', [['not.mid', Uint8Array.of(1, 2, 3)]])).status).toBe(422);
    // Files of a folder come with their folders, and never out of them.
    await put('Odd', [['Deep/er/Another groove.mid', demoGrooves[4]!.bytes()]]);
    expect((await list('?search=Another')).clips[0]!.folder).toBe('Odd/Deep/er');
    expect((await put('Odd', [['../up.mid', demoGrooves[5]!.bytes()]])).status).toBe(400);
  });

  it('goes out as a zip and comes in again elsewhere: files byte for byte, with names, kinds, tags and bars', async () => {
    const zip = await fetch(`${server.address}/api/shelf/file.zip`);
    const bytes = new Uint8Array(await zip.arrayBuffer());
    const before = await list('?limit=1000');
    const form = new FormData();
    form.append('file', new Blob([bytes.slice().buffer]), 'Shelf.zip');
    const other = await freshServer();
    try {
      const response = await fetch(`${other.address}/api/shelf/clips`, {
        method: 'POST',
        body: form,
      });
      expect(response.status).toBe(201);
      const after = clipListSchema.parse(
        await (await fetch(`${other.address}/api/shelf/clips?limit=1000`)).json(),
      );
      const plain = ({ clips }: { clips: readonly ClipView[] }): object[] =>
        clips
          .map(({ id: _, addedAt: __, ...clip }) => clip)
          .sort((a, b) => (`${a.folder}/${a.name}` < `${b.folder}/${b.name}` ? -1 : 1));
      expect(plain(after)).toEqual(plain(before));
    } finally {
      await other.stop();
    }
  });
});
