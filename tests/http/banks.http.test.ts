import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bankListSchema, bankViewSchema } from '#contracts/banks.ts';
import { sounds } from '../../tools/setup.mjs';
import { Api } from '../support/api.ts';
import { plainFile } from '../support/plain-bank.ts';
import { freshServer, type RunningServer } from '../support/server.ts';

let server: RunningServer;
let api: Api;
beforeAll(async () => {
  server = await freshServer({ SATCHEL_MAX_MB: '0.001' });
  api = new Api(server.address);
});
afterAll(() => server.stop());

const bank = new Uint8Array(plainFile());
async function add(name: string, bytes: Uint8Array): Promise<{ status: number; body: unknown }> {
  const form = new FormData();
  form.append('file', new Blob([bytes.slice().buffer]), name);
  const response = await fetch(`${server.address}/api/banks`, { method: 'POST', body: form });
  return { status: response.status, body: await response.json() };
}
const list = async () => bankListSchema.parse((await api.send('GET', '/api/banks')).body);

describe('sound banks of one’s own', () => {
  it('are kept by what they hold, once, beyond the limit for MIDI files, given out byte for byte, and removed for good', async () => {
    const before = await list();
    expect(before.banks).toEqual([]);
    expect(before.along === null).toBe(!sounds());
    const { status, body } = await add('My sounds.sf2', bank);
    expect(status).toBe(201);
    const view = bankViewSchema.parse(body);
    const sha256 = createHash('sha256').update(bank).digest('hex');
    expect(view).toMatchObject({ sha256, name: 'My sounds.sf2', bytes: bank.length, presets: 1 });
    expect((await add('Again.sf2', bank)).body).toEqual(view);
    expect((await list()).banks).toEqual([view]);
    const back = await fetch(`${server.address}/api/banks/${sha256}`);
    expect(new Uint8Array(await back.arrayBuffer())).toEqual(bank);
    expect(back.headers.get('content-length')).toBe(String(bank.length));
    expect((await api.send('DELETE', `/api/banks/${sha256}`)).status).toBe(204);
    expect((await list()).banks).toEqual([]);
    for (const method of ['GET', 'DELETE'])
      expect((await api.send(method, `/api/banks/${sha256}`)).status).toBe(404);
  });

  it('that are none, or cut off, or in an archive, are refused in words, and nothing is kept', async () => {
    for (const [name, bytes, found] of [
      ['song.sf2', Uint8Array.of(0x4d, 0x54, 0x68, 0x64), '4d 54 68 64'],
      ['cut.sf2', bank.subarray(0, bank.length - 10), 'its end is missing'],
      ['empty.sf2', new Uint8Array(0), 'an empty file'],
    ] as const) {
      const { status, body } = await add(name, bytes);
      expect([status, body]).toEqual([
        422,
        expect.objectContaining({
          code: 'bank-unreadable',
          where: { file: name },
          found: expect.stringContaining(found) as string,
        }),
      ]);
    }
    expect((await list()).banks).toEqual([]);
    for (const id of ['..%2f..%2fetc', 'x'.repeat(64)])
      expect((await api.send('GET', `/api/banks/${id}`)).status).toBe(404);
  });
});

it.skipIf(!sounds() || !existsSync(sounds()!))(
  'the sounds that come along are a bank by the same check, with every program and kits',
  { timeout: 60_000 },
  async () => {
    const { readBank } = await import('#core/sounds/bank.ts');
    const { open } = await import('node:fs/promises');
    const file = await open(sounds()!);
    const { size } = await file.stat();
    const held = await readBank(async (at, length) => {
      const bytes = new Uint8Array(Math.min(length, size - at));
      await file.read(bytes, 0, bytes.length, at);
      return bytes;
    }, size);
    await file.close();
    expect(held).toMatchObject({
      ok: true,
      value: { format: 'SF3', missing: [], drums: true },
    });
  },
);
