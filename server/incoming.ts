import { mkdirSync } from 'node:fs';
import { readdir, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import type { Config } from './config.ts';

/**
 * Where files are put aside while a request goes on: uploads as they arrive, handoffs until all their files
 * are there.
 */
export function incomingFolder({ dataFolder }: Pick<Config, 'dataFolder'>): string {
  const folder = path.join(dataFolder, 'incoming');
  mkdirSync(folder, { recursive: true });
  return folder;
}

/** No request goes on for so long. */
const longestMs = 86_400_000;

/** Removes what a server left there that was ended in the middle of a request. */
export async function sweepIncoming(
  config: Pick<Config, 'dataFolder'>,
  now: number,
): Promise<void> {
  const folder = incomingFolder(config);
  for (const name of await readdir(folder)) {
    const file = path.join(folder, name);
    const { mtimeMs } = await stat(file).catch(() => ({ mtimeMs: now }));
    if (now - mtimeMs > longestMs) await rm(file, { force: true });
  }
}
