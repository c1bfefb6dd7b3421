import { spawn, type ChildProcess } from 'node:child_process';
import { appendFileSync, mkdtempSync, openSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { createInterface } from 'node:readline';
import { startCluster } from '../../tools/postgres.mjs';
import { watchAnswers } from './as-described.ts';

export const root = path.resolve(import.meta.dirname, '../..');
export const testFolder = path.join(root, '.satchel-test');

export type Cluster = Awaited<ReturnType<typeof startCluster>>;

/** The tests' own PostgreSQL cluster: made on the first run, shared by all test files, stopped by the test command. */
export const testCluster = (): Promise<Cluster> => startCluster(testFolder);

export interface RunningServer {
  readonly address: string;
  readonly process: ChildProcess;
  /** Where it keeps what is no database. */
  readonly dataFolder: string;
  stop(): Promise<void>;
}

/** Starts the built server on a free port, with the given database and settings. */
export async function startServer(
  databaseUrl: string,
  settings: Record<string, string> = {},
): Promise<RunningServer> {
  const data = mkdtempSync(path.join(tmpdir(), 'satchel-test-'));
  const child = spawn(process.execPath, [path.join(root, 'dist/server/index.js')], {
    cwd: root,
    env: {
      ...process.env,
      NODE_ENV: 'production',
      SATCHEL_PORT: '0',
      SATCHEL_DATA: data,
      SATCHEL_WEB: path.join(root, 'dist/web'),
      SATCHEL_DATABASE_URL: databaseUrl,
      SATCHEL_LOG: 'error',
      ...settings,
    },
    stdio: [
      'ignore',
      'pipe',
      settings.SATCHEL_TEST_OUTPUT ? openSync(settings.SATCHEL_TEST_OUTPUT, 'a') : 'inherit',
    ],
  });
  const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()));
  const address = await new Promise<string>((resolve, reject) => {
    createInterface({ input: child.stdout! }).on('line', (line) => {
      const found = /listening on (http:\S+)/.exec(line)?.[1];
      if (found) resolve(found);
      if (settings.SATCHEL_TEST_OUTPUT) appendFileSync(settings.SATCHEL_TEST_OUTPUT, `${line}\n`);
    });
    child.once('exit', (code) => reject(new Error(`The server ended with ${code}`)));
  });
  const stop = async (): Promise<void> => {
    child.kill('SIGTERM');
    await ended;
    rmSync(data, { recursive: true, force: true });
  };
  return { address, process: child, dataFolder: data, stop };
}

let made = 0;

/** A server with an empty database of its own. */
export async function freshServer(
  settings: Record<string, string> = {},
): Promise<RunningServer & { databaseUrl: string }> {
  watchAnswers();
  const cluster = await testCluster();
  const databaseUrl = cluster.create(`test_${process.pid}_${Date.now()}_${made++}`);
  return { ...(await startServer(databaseUrl, settings)), databaseUrl };
}
