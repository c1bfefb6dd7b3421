import { mkdtempSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { createClient } from '@hey-api/openapi-ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { SongRow, SongView } from '#contracts/songs.ts';
import { workedFormat1 } from '#core/smf/worked-examples.ts';
import { readIndependently } from '../support/independent.ts';
import { freshServer, root, type RunningServer } from '../support/server.ts';

/** What a generator makes of our document, as far as this test calls it. */
interface Generated {
  bringIn(asked: {
    body: { file: File[] };
    headers: object;
  }): Promise<{ data: { songs: SongRow[] } }>;
  getSong(asked: { path: { id: string } }): Promise<{ data: SongView }>;
  takeStep(asked: {
    path: { id: string };
    body: object;
  }): Promise<{ data?: { described: string; revision: number }; error?: { code: string } }>;
  handOff(asked: { path: { id: string }; body: object }): Promise<{
    data: { id: string; files: { name: string }[]; slip: { proof: { holds: boolean } } };
  }>;
  getMap(asked: { path: { id: string }; parseAs: 'blob' }): Promise<{ data: Blob }>;
}

let server: RunningServer;
let folder: string;
let api: Generated;
/** The generator's own way to send a form, where a request may be sent as a form or as JSON. */
let asForm: object;

beforeAll(async () => {
  server = await freshServer();
  const parent = path.join(root, 'test-results');
  mkdirSync(parent, { recursive: true });
  folder = mkdtempSync(path.join(parent, 'generated-'));
  const document = path.join(folder, 'openapi.json');
  writeFileSync(document, await (await fetch(`${server.address}/api/openapi.json`)).text());
  // A public generator (npm @hey-api/openapi-ts 0.94), with what it does by default.
  await createClient({
    input: document,
    output: path.join(folder, 'client'),
    logs: { level: 'silent', file: false },
  });
  const { client } = (await import(path.join(folder, 'client', 'client.gen.ts'))) as {
    client: { setConfig(config: object): void };
  };
  client.setConfig({ baseUrl: server.address });
  asForm = (
    (await import(path.join(folder, 'client', 'core', 'bodySerializer.gen.ts'))) as {
      formDataBodySerializer: object;
    }
  ).formDataBodySerializer;
  api = (await import(path.join(folder, 'client', 'sdk.gen.ts'))) as Generated;
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await server.stop();
});

describe('a client made from the document', () => {
  it('brings in, looks, takes a step, hands off and gets the map, as the README does by hand', async () => {
    const { data: uploaded } = await api.bringIn({
      ...asForm,
      headers: { 'Content-Type': null },
      body: { file: [new File([workedFormat1.slice()], 'song.mid')] },
    });
    const { id, title } = uploaded.songs[0]!;
    const at = { id };
    const { data: song } = await api.getSong({ path: at });
    expect([song.title, song.tracks.length]).toEqual([title, 4]);
    const step = {
      operation: 'tracks.rename',
      settings: { name: 'Horn' },
      scope: { tracks: ['t2'] },
      revision: 0,
    };
    const { data: taken } = await api.takeStep({ path: at, body: step });
    expect(taken).toMatchObject({ revision: 1, changed: true });
    const { error } = await api.takeStep({ path: at, body: step });
    expect(error).toMatchObject({ code: 'revision-stale', head: 1 });
    const { data: handoff } = await api.handOff({ path: at, body: { format: 1 } });
    expect(handoff.slip.proof.holds).toBe(true);
    const { data: map } = await api.getMap({ path: at, parseAs: 'blob' });
    // Tempo and meter of the worked example: 500,000 µs a quarter and 4/4 (SMF 1.0, appendix).
    expect(readIndependently(new Uint8Array(await map.arrayBuffer())).tracks[0]).toEqual(
      expect.arrayContaining([
        expect.stringContaining('ff51 500000'),
        expect.stringContaining('ff58 4 4'),
      ]),
    );
  });
});
