import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Uploaded } from '#contracts/songs.ts';
import { demoFiles } from '#demo/files.ts';
import { Api } from '../support/api.ts';
import { readIndependently } from '../support/independent.ts';
import { freshServer, type RunningServer } from '../support/server.ts';
import { zipOf } from '../support/zip.ts';

let server: RunningServer;
let api: Api;
beforeAll(async () => {
  server = await freshServer({ SATCHEL_MAX_MB: '2' });
  api = new Api(server.address);
});
afterAll(() => server.stop());

const groove = demoFiles[5]!.bytes();
const sketch = demoFiles[1]!.bytes();
const text = new TextEncoder().encode('no music');
const code = (body: unknown): string => (body as { code: string }).code;

describe('a song begun with nothing', () => {
  it('is a song like any other: its time, its full length, and an original that another reader reads', async () => {
    const { status, body } = await api.send<Uploaded>('POST', '/api/songs', {
      title: 'Cue 7',
      bpm: 90,
      numerator: 3,
      denominator: 4,
      key: { sharps: -3, minor: true },
      bars: 20,
      timecode: { address: '10:00:00:00', rate: '25' },
      ppq: 960,
    });
    expect(status).toBe(201);
    const song = await api.song(body.songs[0]!.id);
    expect(song).toMatchObject({ title: 'Cue 7', notes: 0, steps: 0 });
    expect(song.timing).toMatchObject({ bars: 20, startTimecode: '10:00:00:00', frameRate: 25 });
    const file = await fetch(`${server.address}/api/songs/${song.id}/original`);
    const read = readIndependently(new Uint8Array(await file.arrayBuffer()));
    // 90 BPM are 666,667 microseconds a quarter; three flats minor; 20 bars of three quarters at 960 are
    // 57,600 ticks (hand-worked).
    const [map] = read.tracks;
    expect(map!.some((line) => line === '0 ff51 666667')).toBe(true);
    expect(map!.at(-1)).toMatch(/^57600 ff2f/);
  });

  it('asks for what can be: the problem names the field', async () => {
    for (const [body, field] of [
      [{ title: '' }, 'body.title'],
      [{ title: 'a/b' }, 'body.title'],
      [{ bars: 0 }, 'body.bars'],
      [{ bpm: 'fast' }, 'body.bpm'],
      [{ other: 1 }, 'body'],
      [{ timecode: { address: '01:00:00:25', rate: '25' } }, 'timecode.address'],
    ] as const)
      expect(await api.send('POST', '/api/songs', body)).toMatchObject({
        status: 400,
        body: { code: 'settings-invalid', where: { field } },
      });
  });

  it('takes a whole file with its map, and is then that file but for its name', async () => {
    const begun = await api.send<Uploaded>('POST', '/api/songs', { title: 'Mine', ppq: 480 });
    const into = await api.song(begun.body.songs[0]!.id);
    const other = await api.song((await api.bring('other.mid', groove)).id);
    const map = {
      tempos: 'replace',
      meters: 'replace',
      keys: 'replace',
      markers: 'replace',
      sections: 'replace',
      timecode: 'replace',
    };
    const taken = await api.step(into.id, into.revision, 'tracks.bring-in', {
      source: { original: other.original.sha256 },
      map,
      channels: 'as they are',
    });
    expect(taken.status).toBe(200);
    const now = await api.song(into.id);
    expect(now.title).toBe('Mine');
    expect(now.notes).toBe(other.notes);
    expect(now.timing.tempos).toEqual(other.timing.tempos);
    expect(now.timing.meters).toEqual(other.timing.meters);
    expect(now.timing.bars).toBeGreaterThanOrEqual(other.timing.bars);
  });
});

describe('a zip archive', () => {
  it('is its MIDI files, from folders as deep as they lie; what is none is named', async () => {
    const zip = zipOf([
      { name: 'takes/', bytes: new Uint8Array(0) },
      { name: 'takes/one/groove.mid', bytes: groove },
      // As some systems write them.
      { name: 'takes\\two\\sketch.mid', bytes: sketch },
      { name: '__MACOSX/takes/._groove.mid', bytes: text },
      { name: 'read me.txt', bytes: text },
    ]);
    const { status, body } = await api.upload({ name: 'takes.zip', bytes: zip });
    expect(status).toBe(201);
    expect(body.songs.map((s) => s.title)).toEqual(['groove', 'sketch']);
    expect(body.problems.filter((p) => p.code === 'not-midi')).toMatchObject([
      { where: { file: 'read me.txt' } },
    ]);
    const form = new FormData();
    form.append('file', new Blob([zip.slice().buffer]), 'takes.zip');
    const sent = await fetch(`${server.address}/api/originals`, { method: 'POST', body: form });
    const kept = (await sent.json()) as { originals: { fileName: string }[] };
    expect(kept.originals.map((o) => o.fileName)).toEqual(['groove.mid', 'sketch.mid']);
  });

  it('that is empty, broken, cut, in another, or leads out of itself is refused in words', async () => {
    const inner = zipOf([{ name: 'groove.mid', bytes: groove }]);
    const cases: [Uint8Array, string][] = [
      [zipOf([]), 'archive-unreadable'],
      [inner.subarray(0, inner.length - 30), 'archive-unreadable'],
      [Uint8Array.of(0x50, 0x4b, 3, 4, 0, 0), 'archive-unreadable'],
      [zipOf([{ name: 'inner.zip', bytes: inner }]), 'not-midi'],
      [zipOf([{ name: '../../etc/groove.mid', bytes: groove }]), 'archive-unreadable'],
      [zipOf([{ name: '..\\..\\groove.mid', bytes: groove }]), 'archive-unreadable'],
      [zipOf([{ name: 'lie.mid', bytes: groove, stated: 10 }]), 'archive-unreadable'],
    ];
    for (const [bytes, expected] of cases) {
      const { status, body } = await api.upload({ name: 'x.zip', bytes });
      expect([status, code(body)]).toEqual([422, expected]);
    }
  });

  it('that unpacks to a thousand times its size, or holds more files than can be taken, is refused before it is unpacked', async () => {
    const bomb = zipOf([{ name: 'bomb.mid', bytes: new Uint8Array(1_900_000) }]);
    const { status, body } = await api.upload({ name: 'bomb.zip', bytes: bomb });
    expect([status, code(body)]).toEqual([422, 'archive-unreadable']);
    const large = zipOf([{ name: 'large.mid', bytes: new Uint8Array(2_200_000) }]);
    expect(code((await api.upload({ name: 'large.zip', bytes: large })).body)).toBe(
      'file-too-large',
    );
    const many = zipOf(Array.from({ length: 1001 }, (_, n) => ({ name: `${n}.mid`, bytes: text })));
    const refused = await api.upload({ name: 'many.zip', bytes: many });
    expect([refused.status, code(refused.body)]).toEqual([413, 'files-too-many']);
  });

  it('whose files share one body is refused: thirty lists over one megabyte would be thirty', async () => {
    const bytes = Buffer.from(`"${'x'.repeat(900_000)}"`);
    const zip = zipOf(
      Array.from({ length: 30 }, (_, n) => ({
        name: `${n}/satchel.json`,
        bytes,
        overlaps: n > 0,
      })),
    );
    const { status, body } = await api.upload({ name: 'over.zip', bytes: zip });
    expect([status, body]).toMatchObject([
      422,
      { code: 'archive-unreadable', found: expect.stringContaining('0/satchel.json and 1/') },
    ]);
  });

  it('is held to the sum of what its files unpack to, sixteen times the largest file, also in several archives', async () => {
    const half = Array.from({ length: 17 }, (_, n) => ({
      name: `${n}.mid`,
      bytes: new Uint8Array(1_000_000),
    }));
    const twice = [...half, ...half.map((f) => ({ ...f, name: `more/${f.name}` }))];
    const whole = await api.upload({ name: 'sum.zip', bytes: zipOf(twice) });
    expect([whole.status, whole.body]).toMatchObject([
      413,
      { code: 'archive-too-large', expected: 'at most 32 MB when unpacked' },
    ]);
    const form = new FormData();
    for (const name of ['a.zip', 'b.zip'])
      form.append('file', new Blob([zipOf(half).slice().buffer]), name);
    const both = await fetch(`${server.address}/api/songs`, { method: 'POST', body: form });
    expect([both.status, code(await both.json())]).toEqual([413, 'archive-too-large']);
  });

  it('has its files counted before any is read: of a directory of noise that says 30,000 nothing is', async () => {
    const end = Buffer.alloc(22);
    end.write('PK\u0005\u0006', 'latin1');
    end.writeUInt16LE(30_000, 8);
    end.writeUInt16LE(30_000, 10);
    end.writeUInt32LE(64, 12);
    const bytes = new Uint8Array([
      ...Buffer.from('PK\u0003\u0004'),
      ...Buffer.alloc(60, 7),
      ...end,
    ]);
    const { status, body } = await api.upload({ name: 'noise.zip', bytes });
    expect([status, code(body)]).toEqual([413, 'files-too-many']);
  });

  it('with a wrong checksum is told of, and the file is taken as it is', async () => {
    const zip = zipOf([
      { name: 'wrong.mid', bytes: groove, checksum: 1 },
      { name: 'right.mid', bytes: sketch },
    ]);
    const { status, body } = await api.upload({ name: 'sums.zip', bytes: zip });
    expect([status, body.songs.map((s) => s.title)]).toEqual([201, ['wrong', 'right']]);
    expect(body.problems).toMatchObject([{ code: 'checksum-wrong', where: { file: 'wrong.mid' } }]);
    for (const way of ['originals', 'shelf/clips']) {
      const form = new FormData();
      form.append('file', new Blob([zip.slice().buffer]), 'sums.zip');
      const sent = await fetch(`${server.address}/api/${way}`, { method: 'POST', body: form });
      const { problems } = (await sent.json()) as { problems: { code: string }[] };
      expect([way, problems.map((p) => p.code)]).toEqual([way, ['checksum-wrong']]);
    }
  });
});
