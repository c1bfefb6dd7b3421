import { mkdtempSync, readdirSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, it } from 'vitest';
import { incomingFolder, sweepIncoming } from './incoming.ts';
import { Spool } from './spool.ts';

const data = (): { dataFolder: string } => ({
  dataFolder: mkdtempSync(path.join(tmpdir(), 'in-')),
});

it('what was left in the middle of a request is removed after a day, and what goes on is not', async () => {
  const config = data();
  const folder = incomingFolder(config);
  for (const name of ['old', 'new']) writeFileSync(path.join(folder, name), 'x');
  const now = Date.now();
  utimesSync(path.join(folder, 'old'), new Date(now), new Date(now - 90_000_000));
  await sweepIncoming(config, now);
  expect(readdirSync(folder)).toEqual(['new']);
});

it('files that are put aside come back in their order, whether they were held or went to disk, and nothing is left', async () => {
  const folder = incomingFolder(data());
  const spool = new Spool(folder);
  const files = [5, 20_000_000, 14_000_000, 3].map((length, n) => ({
    name: `f${n}`,
    bytes: new Uint8Array(length).fill(n + 1),
  }));
  for (const { name, bytes } of files) await spool.add(name, bytes);
  expect(readdirSync(folder)).toHaveLength(1);
  const back: { name: string; bytes: Uint8Array }[] = [];
  for await (const file of spool.all()) back.push(file);
  expect(back.map((f) => f.name)).toEqual(files.map((f) => f.name));
  for (const [n, { bytes }] of back.entries())
    expect(Buffer.compare(bytes, files[n]!.bytes), `file ${n}`).toBe(0);
  await spool.done();
  expect(readdirSync(folder)).toEqual([]);
});
