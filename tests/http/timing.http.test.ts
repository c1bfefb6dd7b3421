import { parseMidi } from 'midi-file';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { eventsFrom } from '#core/smf/event-builder.ts';
import { meta, metaEvent } from '#core/smf/events.ts';
import { writeSmf } from '#core/smf/write.ts';
import { demoFiles } from '#demo/files.ts';
import { tempoListSchema } from '#contracts/songs.ts';
import { sounds } from '../../tools/setup.mjs';
import { Api } from '../support/api.ts';
import { independentMap } from '../support/independent-map.ts';
import { emptyFile, namedMap, namedMapSteps, namedSections } from '../support/named-map.ts';
import { freshServer, type RunningServer } from '../support/server.ts';

let server: RunningServer;
let api: Api;
beforeAll(async () => {
  server = await freshServer();
  api = new Api(server.address);
});
afterAll(() => server.stop());

/** Steps one after the other, each on the head. */
async function takeAll(id: string, steps: typeof namedMapSteps): Promise<void> {
  for (const [operation, settings] of steps) {
    const { status, body } = await api.step(id, (await api.song(id)).revision, operation, settings);
    expect([operation, status, body.changed ?? body.message]).toEqual([operation, 200, true]);
  }
}

const sections = async (id: string) =>
  (await api.song(id)).timing.sections.map(({ name, from, to }) => ({ name, from, to }));

it('a whole map without notes goes out, is what an independent reader sees, and comes in again with its sections', async () => {
  const { id } = await api.bring('map.mid', emptyFile);
  await takeAll(id, namedMapSteps);
  expect(await sections(id)).toEqual(namedSections);
  const { bytes, handoff } = await api.handOff(id, 1);
  expect(handoff.slip.proof.holds).toBe(true);
  expect(independentMap(bytes)).toEqual(namedMap);
  const back = await api.bring('back.mid', bytes);
  expect(await sections(back.id)).toEqual(namedSections);
  expect((await api.song(back.id)).timing.markers.map((m) => m.text)).toEqual(['Verse', 'Bridge']);
  expect((await api.song(back.id)).notes).toBe(0);
  expect((await api.handOff(back.id)).bytes).toEqual(bytes);
});

it('where a part sounds is right in every state of its bars: after a meter, and after that was undone', async () => {
  const { id } = await api.bring('ferry.mid', demoFiles[0]!.bytes());
  const sounds = async () => (await api.song(id)).tracks.map((t) => t.activity);
  const before = await sounds();
  await takeAll(id, [['timing.meter', { bar: 1, numerator: 3 }]]);
  const inThree = await sounds();
  expect(inThree).not.toEqual(before);
  await api.send('POST', `/api/songs/${id}/undo`, {});
  expect(await sounds()).toEqual(before);
  await api.send('POST', `/api/songs/${id}/redo`, {});
  expect(await sounds()).toEqual(inThree);
  // The same, worked out from nothing but the file.
  const back = await api.bring('back.mid', (await api.handOff(id, 1)).bytes);
  expect((await api.song(back.id)).tracks.map((t) => t.activity)).toEqual(inThree);
});

it('the map alone is to be had as a file: exactly the map, and no music', async () => {
  const { id } = await api.bring('map.mid', emptyFile);
  await takeAll(id, [
    ...namedMapSteps,
    ['timing.marker', { bar: 4, text: 'Ask', travels: false }],
    ['timing.click', {}],
  ]);
  expect((await api.song(id)).notes).toBeGreaterThan(0);
  const file = await api.bytes(`/api/songs/${id}/map.mid`);
  expect(independentMap(file)).toEqual(namedMap);
  expect(
    parseMidi(file)
      .tracks.flat()
      .some((e) => e.type === 'noteOn' || e.type === 'noteOff'),
  ).toBe(false);
  const back = await api.bring('back.mid', file);
  expect(await sections(back.id)).toEqual(namedSections);
});

it('every tempo of a song is to be had, however many it lists', async () => {
  const tempos = Array.from({ length: 6000 }, (_, i) =>
    metaEvent(i * 10, meta.tempo, Uint8Array.of(7, (0xa0 + i) & 255, i & 255)),
  );
  const { id } = await api.bring(
    'many.mid',
    writeSmf({
      format: 1,
      division: { kind: 'ppq', ticksPerQuarter: 96 },
      headerExtra: new Uint8Array(0),
      alienChunks: [],
      tracks: [{ events: eventsFrom(tempos) }],
    }),
  );
  const { timing } = await api.song(id);
  expect([timing.tempos.length, timing.tempoCount]).toEqual([5000, 6000]);
  const list = tempoListSchema.parse((await api.send('GET', `/api/songs/${id}/tempos`)).body);
  expect([list.ticks.length, list.ticks.at(-1), list.tempos[0]]).toEqual([6000, 59_990, 0x07a000]);
});

it('what does not travel is told on the slip and in no file; a timecode at a later bar is counted back', async () => {
  const { id } = await api.bring('kept.mid', emptyFile);
  await takeAll(id, [
    ['timing.length', { bars: 8 }],
    ['timing.marker', { bar: 2, text: 'Ask', travels: false }],
    ['timing.section', { name: 'Draft', bar: 1, lastBar: 2, travels: false }],
    ['timing.timecode', { address: '01:00:00:00', rate: '25', bar: 5 }],
  ]);
  const { timing } = await api.song(id);
  expect(timing.markers).toMatchObject([{ text: 'Ask', travels: false }]);
  // 120 BPM: four bars are 8 seconds.
  expect(timing).toMatchObject({
    startTimecode: '00:59:52:00',
    frameRate: 25,
    timecode: { rate: '25', frames: 90_000 },
  });
  const { bytes, handoff } = await api.handOff(id);
  expect(independentMap(bytes).markers).toEqual([]);
  expect(handoff.slip.notes.join(' ')).toContain('Kept here and not sent: “Ask”, “Draft”.');
});

it.each([
  ['timing.meter', { numerator: 0 }],
  ['timing.meter', { numerator: 5, denominator: '3' }],
  ['timing.tempo', { bpm: 3 }],
  ['timing.tempo', { bpm: 1e9 }],
  ['timing.tempo', { bar: 0 }],
  ['timing.timecode', { address: '00:01:00;00', rate: '29.97 drop' }],
  ['timing.section', { bar: 3, lastBar: 2 }],
  ['timing.fit', { length: 0 }],
  ['timing.ramp', { bar: 4, toBar: 4 }],
])('%s with %o is refused in words, and nothing is changed', async (operation, settings) => {
  const { id } = await api.bring('x.mid', emptyFile);
  const { status, body } = await api.step(id, 0, operation, settings);
  expect([status, body.code]).toEqual([400, 'settings-invalid']);
  expect(body.expected && body.found && body.remedy).toBeTruthy();
  expect((await api.song(id)).revision).toBe(0);
});

it('sounds are had for listening; where there are none, it is said what to install', async () => {
  const without = await freshServer({ SATCHEL_SOUNDS: '/nowhere/bank.sf3' });
  const { status, body } = await new Api(without.address).send<{ code: string; remedy: string }>(
    'GET',
    '/api/sounds',
  );
  await without.stop();
  expect([status, body.code]).toEqual([404, 'sounds-missing']);
  expect(body.remedy).toContain('fluidr3mono-gm-soundfont');
  if (sounds())
    expect(new TextDecoder().decode((await api.bytes('/api/sounds')).subarray(0, 4))).toBe('RIFF');
});
