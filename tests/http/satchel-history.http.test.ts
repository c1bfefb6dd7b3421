import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoFiles } from '#demo/files.ts';
import type { HandoffView } from '#contracts/handoffs.ts';
import type { StepView } from '#contracts/steps.ts';
import { Api } from '../support/api.ts';
import { freshServer, type RunningServer } from '../support/server.ts';
import { unpacked } from '../support/unpacked.ts';
import { zipOf } from '../support/zip.ts';

let server: RunningServer;
let api: Api;
/** The files of a satchel with a song of two steps. */
let satchel: Map<string, Buffer>;
beforeAll(async () => {
  server = await freshServer();
  api = new Api(server.address);
  const { id } = await api.bring('The Lantern Ferry.mid', demoFiles[0]!.bytes());
  expect((await api.step(id, 0, 'timing.sections')).status).toBe(200);
  expect((await api.step(id, 1, 'tracks.rename', { name: 'Reed' }, ['t2'])).status).toBe(200);
  const { body } = await api.send<HandoffView>('POST', `/api/songs/${id}/handoffs`, {
    receiver: 'collaborator',
  });
  satchel = await unpacked(await api.bytes(`/api/handoffs/${body.id}/satchel.zip`));
});
afterAll(() => server.stop());

/** What of a song as it is kept is forged here. */
interface KeptSong {
  title: string;
  head: number;
  revisions: { number: number; parent: number | null }[];
  steps: {
    revision: number;
    operation: string;
    version: number;
    settings: Record<string, unknown>;
    described: string;
    report: { changes: { name: string }[] };
  }[];
}

const keptSong = (): KeptSong => JSON.parse(satchel.get('song/song.json')!.toString()) as KeptSong;

const open = (song: KeptSong) =>
  api.upload({
    name: 'forged satchel.zip',
    bytes: zipOf(
      [...new Map(satchel).set('song/song.json', Buffer.from(JSON.stringify(song)))].map(
        ([name, bytes]) => ({ name, bytes: new Uint8Array(bytes) }),
      ),
    ),
  });

describe('a satchel whose history was written by somebody else', () => {
  it.each<[string, (song: KeptSong) => unknown, RegExp]>([
    ['a step that is missing', (s) => s.steps.pop(), /^revision 2 has no step$/],
    ['a step twice', (s) => s.steps.push(s.steps[0]!), /^revision 1 has two steps$/],
    [
      'revisions without steps',
      (s) => {
        for (let n = 3; n < 3000; n++)
          s.revisions.push({ ...s.revisions[2]!, number: n, parent: 2 });
      },
      /^revision 3 has no step$/,
    ],
    [
      'an operation that nobody knows',
      (s) => (s.steps[0]!.operation = 'song.vanish'),
      /^the step of revision 1: the operation "song.vanish" is unknown$/,
    ],
    [
      'an operation of a later version',
      (s) => (s.steps[1]!.version = 99),
      /^the step of revision 2: tracks.rename is known up to version \d+, not 99$/,
    ],
    [
      'settings of its own',
      (s) => (s.steps[1]!.settings.more = 1),
      /^the step of revision 2: settings should be no other fields .* and is more$/,
    ],
    [
      'a hundred thousand settings',
      (s) =>
        (s.steps[1]!.settings = Object.fromEntries(
          Array.from({ length: 1e5 }, (_, n) => [`k${n}`, n]),
        )),
      /^the step of revision 2: settings/,
    ],
    [
      'a report that is none',
      (s) => (s.steps[1]!.report = { changes: [{ name: 5 as never }] }),
      /^the step of revision 2: report\.changes\.0\.name should be a text, and is 5$/,
    ],
    ['NUL in a title', (s) => (s.title = 'a\0b'), /^song\.title: a NUL character$/],
  ])('with %s is refused in words, and nothing of it is taken', async (_, forge, why) => {
    const song = keptSong();
    forge(song);
    const { status, body } = await open(song);
    expect([status, body.code]).toEqual([422, 'satchel-unreadable']);
    expect(body.found).toMatch(why);
    expect((await api.send('GET', '/api/songs')).body).toMatchObject({ total: 1 });
  });

  it('describes its steps by what they did, whatever it says of them', async () => {
    const song = keptSong();
    const said = song.steps.map((s) => s.described);
    for (const step of song.steps) step.described = 'Call this number';
    const { status, body } = await open(song);
    expect(status, JSON.stringify(body)).toBe(201);
    const { steps } = (
      await api.send<{ steps: StepView[] }>('GET', `/api/songs/${body.songs[0]!.id}/steps`)
    ).body;
    expect(steps.map((s) => s.described)).toEqual(said);
  });
});
