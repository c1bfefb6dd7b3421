import { afterAll, beforeAll, expect, it } from 'vitest';
import type { HandoffView } from '#contracts/handoffs.ts';
import type { OriginalView } from '#contracts/songs.ts';
import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent, meta, metaEvent } from '#core/smf/events.ts';
import { encodeText } from '#core/smf/text.ts';
import { writeSmf } from '#core/smf/write.ts';
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

/** One part with a copyright notice (FF 02, SMF 1.0) and who wrote it as a text at the beginning. */
const noticed = writeSmf({
  format: 1,
  division: { kind: 'ppq', ticksPerQuarter: 96 },
  headerExtra: new Uint8Array(0),
  alienChunks: [],
  tracks: [
    {
      events: eventsFrom([
        metaEvent(0, meta.copyright, encodeText('(C) 2026 M. Lind')),
        metaEvent(0, meta.text, encodeText('Written by M. Lind')),
        channelEvent(0, 0x90, 60, 80),
        channelEvent(96, 0x80, 60, 64),
      ]),
    },
  ],
});
const sourceOf = (sha256: string) => `/api/originals/${sha256}/source`;
const say = (sha256: string, source: string) =>
  api.send<{ source: string }>('PUT', sourceOf(sha256), { source });
const slipOf = async (id: string): Promise<HandoffView['slip']> =>
  (await api.handOff(id)).handoff.slip;

it('what a file says of whose work it is stands with what it holds, before any of it is taken', async () => {
  const { id } = await api.bring('noticed.mid', noticed);
  const { original, timing } = await api.song(id);
  const { body } = await api.send<OriginalView>('GET', `/api/originals/${original.sha256}`);
  expect(body.parts[0]!.timing.copyright).toEqual(['(C) 2026 M. Lind']);
  expect(body.parts[0]!.timing.texts.map((t) => t.text)).toEqual(['Written by M. Lind']);
  expect(timing.copyright).toEqual(['(C) 2026 M. Lind']);
  expect((await slipOf(id)).copyright).toEqual(['(C) 2026 M. Lind']);
  const without = await api.send<HandoffView>('POST', `/api/songs/${id}/handoffs`, {
    take: { copyright: false },
  });
  expect(without.body.slip.copyright).toBeUndefined();
});

it('where it is from is typed once, stays with the file, and is repeated by the slips of every song that takes from it', async () => {
  const file = demoFiles[5]!.bytes();
  const own = await api.bring('groove.mid', file);
  const { sha256 } = (await api.song(own.id)).original;
  expect((await api.send<{ source: string }>('GET', sourceOf(sha256))).body).toEqual({
    source: '',
  });
  expect((await slipOf(own.id)).sources).toBeUndefined();
  expect((await say(sha256, '  a market, by hand ')).body).toEqual({ source: 'a market, by hand' });
  expect((await slipOf(own.id)).sources).toEqual(['a market, by hand']);
  // The same file again is the same file; another song that took from it repeats it beside its own.
  await api.bring('again.mid', file);
  expect((await api.send<{ source: string }>('GET', sourceOf(sha256))).body.source).toBe(
    'a market, by hand',
  );
  const other = await api.bring('noticed.mid', noticed);
  const step = await api.step(other.id, 0, 'tracks.bring-in', { source: { original: sha256 } });
  expect(step.status).toBe(200);
  expect((await slipOf(other.id)).sources).toEqual(['a market, by hand']);
  expect((await say(sha256, '')).body).toEqual({ source: '' });
  expect((await slipOf(other.id)).sources).toBeUndefined();
});

it('what is no file, and what is no line, is refused', async () => {
  expect((await say('0'.repeat(64), 'x')).status).toBe(404);
  expect((await api.send('GET', sourceOf('0'.repeat(64)))).status).toBe(404);
  const { id } = await api.bring('noticed.mid', noticed);
  const { sha256 } = (await api.song(id)).original;
  for (const source of ['two\nlines', 'x'.repeat(501), 5])
    expect((await api.send('PUT', sourceOf(sha256), { source })).status).toBe(400);
});
