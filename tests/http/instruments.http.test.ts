import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  instrumentListSchema,
  instrumentsReadSchema,
  instrumentViewSchema,
  type InstrumentsRead,
  type InstrumentView,
} from '#contracts/instruments.ts';
import type { SongView } from '#contracts/songs.ts';
import { definitionSchema } from '#core/instruments/definition.ts';
import { writeMidnam } from '#core/instruments/midnam/write.ts';
import { demoFiles } from '#demo/files.ts';
import { readIndependently } from '../support/independent.ts';
import { Api } from '../support/api.ts';
import { freshServer, type RunningServer } from '../support/server.ts';

let server: RunningServer;
let api: Api;
beforeAll(async () => {
  server = await freshServer();
  api = new Api(server.address);
});
afterAll(() => server.stop());

const whistle = {
  name: 'Low whistle',
  maker: 'Lumen',
  model: 'Engine',
  program: 79,
  sends: { program: 5, bank: 81 * 128 + 2 },
  playable: { lowest: 90, highest: 100 },
  voices: 1,
};
const list = async (): Promise<InstrumentView[]> =>
  instrumentListSchema.parse((await api.send('GET', '/api/instruments')).body).instruments;
const code = ({ status, body }: { status: number; body: unknown }): [number, string] => [
  status,
  (body as { code: string }).code,
];

async function read(
  name: string,
  text: string,
): Promise<{ status: number; body: InstrumentsRead }> {
  const form = new FormData();
  form.append('file', new Blob([text]), name);
  const response = await fetch(`${server.address}/api/instruments/read`, {
    method: 'POST',
    body: form,
  });
  return { status: response.status, body: (await response.json()) as InstrumentsRead };
}

describe('instruments', () => {
  it('are kept, changed, removed and restored; those that come along stand behind one’s own', async () => {
    expect((await list()).every((i) => i.along)).toBe(true);
    const added = await api.send<{ instruments: InstrumentView[] }>(
      'POST',
      '/api/instruments',
      whistle,
    );
    expect(added.status).toBe(201);
    const { id } = added.body.instruments[0]!;
    expect((await list())[0]).toEqual({
      id,
      along: false,
      definition: definitionSchema.parse(whistle),
    });
    const changed = await api.send('PUT', `/api/instruments/${id}`, {
      ...whistle,
      name: 'Whistle',
    });
    expect(instrumentViewSchema.parse(changed.body).definition.name).toBe('Whistle');
    expect((await api.send('DELETE', `/api/instruments/${id}`)).status).toBe(204);
    expect((await list()).some((i) => i.id === id)).toBe(false);
    expect((await api.send('POST', `/api/instruments/${id}/restore`)).status).toBe(200);
    expect((await list())[0]!.id).toBe(id);
  });

  it('that are none are refused in plain words, and nothing is kept', async () => {
    const before = (await list()).length;
    for (const bad of [
      { name: '' },
      { name: 'X', colour: 'red' },
      { name: 'X', sends: { program: 1, bank: 16_384 } },
      { name: 'X', playable: { lowest: 70, highest: 60 } },
      { instruments: [whistle, { name: 'Y', voices: 0 }] },
    ])
      expect(code(await api.send('POST', '/api/instruments', bad))).toEqual([
        400,
        'settings-invalid',
      ]);
    expect(code(await api.send('PUT', '/api/instruments/along-flute', whistle))).toEqual([
      422,
      'instrument-along',
    ]);
    expect(code(await api.send('DELETE', '/api/instruments/x'))).toEqual([
      404,
      'instrument-unknown',
    ]);
    expect(code(await api.send('GET', '/api/instruments/file?ids=x'))).toEqual([
      404,
      'instrument-unknown',
    ]);
    const two = 'along-flute,along-oboe';
    expect(
      (await fetch(`${server.address}/api/instruments/file?format=midnam&ids=${two}`)).status,
    ).toBe(200);
    const { body } = await api.send<{ instruments: InstrumentView[] }>('POST', '/api/instruments', {
      ...whistle,
      maker: 'Another',
    });
    const { id } = body.instruments[0]!;
    expect(
      code(await api.send('GET', `/api/instruments/file?format=midnam&ids=along-flute,${id}`)),
    ).toEqual([422, 'instruments-of-several']);
    await api.send('DELETE', `/api/instruments/${id}`);
    expect((await list()).length).toBe(before);
    expect(code(await read('x.midnam', '<MIDINameDocument>&x;</MIDINameDocument>'))).toEqual([
      422,
      'xml-unreadable',
    ]);
    expect(code(await read('x.json', '{"instruments":[]}'))).toEqual([
      422,
      'instruments-unreadable',
    ]);
  });

  it('read over one that is there keep what a name document cannot say; as JSON they go out and in whole', async () => {
    const [own] = await list();
    const document = writeMidnam([
      definitionSchema.parse({
        ...whistle,
        name: own!.definition.name,
        keys: [{ key: 60, name: 'Low' }],
      }),
    ]);
    const { status, body } = await read('whistle.midnam', document);
    expect(status).toBe(200);
    const [found] = instrumentsReadSchema.parse(body).instruments;
    expect(found!.over).toBe(own!.id);
    expect(found!.definition.playable).toEqual(whistle.playable);
    expect(found!.definition.keys).toEqual([{ key: 60, name: 'Low' }]);
    // Nothing was kept by reading.
    expect((await list())[0]!.definition.keys).toEqual([]);
    const file = await (
      await fetch(`${server.address}/api/instruments/file?ids=${own!.id},along-harp`)
    ).text();
    const back = await read('all.json', file);
    expect(back.body.instruments.map((i) => i.definition)).toEqual([
      own!.definition,
      (await list()).find((i) => i.id === 'along-harp')!.definition,
    ]);
  });

  it('given to a part are the song’s own copy: removed or changed, they change no song, and the file says bank and program', async () => {
    const { id } = await api.bring(
      'ferry.mid',
      demoFiles.find((f) => f.name === 'The Lantern Ferry.mid')!.bytes(),
    );
    const violin = (await api.song(id)).tracks.findIndex((t) => t.name === 'Violin');
    const track = (song: SongView) => song.tracks[violin]!;
    await api.step(id, 0, 'tracks.instrument', { definition: whistle }, [
      track(await api.song(id)).id,
    ]);
    expect(track(await api.song(id)).instrument?.name).toBe('Low whistle');
    for (const { id: own, along } of await list())
      if (!along) await api.send('DELETE', `/api/instruments/${own}`);
    const after = await api.song(id);
    expect(track(after).instrument).toEqual(definitionSchema.parse(whistle));
    // Out of its range: the look-over knows the copy.
    const findings = await api.send<{ findings: { rule: string; title: string }[] }>(
      'GET',
      `/api/songs/${id}/findings`,
    );
    expect(
      findings.body.findings.filter((f) => f.rule === 'out-of-range').map((f) => f.title),
    ).toEqual([expect.stringContaining('Low whistle')]);
    const { bytes } = await api.handOff(id);
    const said = readIndependently(bytes).tracks[violin]!.filter((l) => /^0 [bc]/.test(l));
    const channel = (track(after).channel! - 1).toString(16);
    expect(said.slice(0, 3)).toEqual([`0 b${channel}0051`, `0 b${channel}2002`, `0 c${channel}04`]);
    // The same again changes nothing; another program takes the definition away; undo brings it back.
    const same = await api.step(id, 1, 'tracks.instrument', { definition: whistle }, [
      track(after).id,
    ]);
    expect(same.body.changed).toBe(false);
    await api.step(id, 1, 'tracks.instrument', { program: 41 }, [track(after).id]);
    expect(track(await api.song(id)).instrument).toBeUndefined();
    await api.send('POST', `/api/songs/${id}/undo`, {});
    expect(track(await api.song(id)).instrument?.name).toBe('Low whistle');
  });
});
