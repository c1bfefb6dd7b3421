import { spawn, type ChildProcess } from 'node:child_process';
import {
  chmodSync,
  cpSync,
  existsSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import { isOurs, ownFolder, readOwn, writeOwn } from '../../tools/own-folder.mjs';
import { takeLock } from '../../tools/lock.mjs';
import { workedFormat1 } from '#core/smf/worked-examples.ts';
import { Api } from '../support/api.ts';
import { root } from '../support/server.ts';

const running: ChildProcess[] = [];
const folders: string[] = [];
afterEach(async () => {
  for (const child of running.splice(0)) {
    if (child.exitCode !== null) continue;
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGTERM');
    await ended;
  }
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
});

/** A start command on a data folder, with what it has printed so far. */
function start(data: string): { child: ChildProcess; said: () => string } {
  const child = spawn(process.execPath, [path.join(root, 'tools/start.mjs')], {
    env: { ...process.env, SATCHEL_DATA: data, SATCHEL_PORT: '0' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  running.push(child);
  let text = '';
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (d: Buffer) => (text += d.toString()));
  return { child, said: () => text };
}

async function until<T>(
  look: () => T | undefined | false | Promise<T | undefined | false>,
  seconds = 90,
): Promise<T> {
  for (let n = 0; n < seconds * 10; n++) {
    const found = await look();
    if (found) return found;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('did not come about');
}

const temporary = (): string => {
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-start-'));
  folders.push(folder);
  return folder;
};
const facts = (data: string): { serverPid: number; address: string } | undefined =>
  existsSync(path.join(data, 'running.json'))
    ? (JSON.parse(readFileSync(path.join(data, 'running.json'), 'utf8')) as {
        serverPid: number;
        address: string;
      })
    : undefined;

describe('issue 9.1: a dead server', () => {
  it('is started again where it was, with everything that was acknowledged; two starts at once are one', async () => {
    const data = path.join(temporary(), 'data');
    const one = start(data);
    const two = start(data);
    const { address, serverPid } = await until(() => facts(data));
    const api = new Api(address);
    const { id } = await until(() => api.bring('a.mid', workedFormat1).catch(() => undefined));
    expect((await api.step(id, 0, 'tracks.rename', { name: 'Kept' }, ['t2'])).status).toBe(200);
    // The second start waited, saw the first and left it alone.
    const second = await until(() => [one, two].find((s) => s.child.exitCode !== null));
    expect(second.child.exitCode).toBe(0);
    expect(second.said()).toContain(`Already running: ${address}`);
    process.kill(serverPid, 'SIGKILL');
    await until(() => [one, two].some((s) => s.said().includes('It answers again')));
    const song = await until(() => api.song(id).catch(() => undefined));
    expect([song.revision, song.tracks[1]!.name]).toEqual([1, 'Kept']);
  }, 300_000);
});

describe('a folder', () => {
  it('that is a copy of one that runs has a server and a database of its own, and the first goes on', async () => {
    const place = temporary();
    // PostgreSQL's own user may go in, so that the database lies in the folder.
    chmodSync(place, 0o755);
    const [data, copy] = [path.join(place, 'first'), path.join(place, 'copy')];
    start(data);
    const first = await until(() => facts(data));
    const api = new Api(first.address);
    const { id } = await until(() => api.bring('a.mid', workedFormat1).catch(() => undefined));
    cpSync(data, copy, { recursive: true, verbatimSymlinks: true });
    const second = start(copy);
    const own = await until(() => {
      const found = facts(copy);
      return found && found.address !== first.address ? found : undefined;
    });
    expect(second.said()).not.toContain('Already running');
    const other = new Api(own.address);
    const renamed = await until(async () => {
      const { status } = await other.step(id, 0, 'tracks.rename', { name: 'Copy' }, ['t2']);
      return status === 200;
    });
    expect(renamed).toBe(true);
    // The first has the same server as before, and none of what was done to the copy.
    expect(facts(data)).toEqual(first);
    expect((await api.song(id)).revision).toBe(0);
  }, 300_000);

  it('that cannot be made or written is said in a sentence', async () => {
    const file = path.join(temporary(), 'file');
    writeFileSync(file, '');
    for (const [folder, why] of [
      [path.join(file, 'data'), 'a part of its path is a file'],
      [file, 'it is a file'],
    ] as const) {
      const { child, said } = start(folder);
      await until(() => child.exitCode !== null);
      expect([child.exitCode, said()]).toEqual([
        1,
        `The folder ${folder} cannot be written: ${why}. Set SATCHEL_DATA to another folder, or make this one writable.\n`,
      ]);
    }
  });
});

const us = { uid: process.getuid?.() ?? 0, gid: process.getgid?.() ?? 0 };
const nobody = { uid: 65534, gid: 65534 };

describe('issue 9.6: nothing that another user can plant is followed', () => {
  it('a link or somebody else’s folder is not taken; what is ours is, for us alone', () => {
    const place = temporary();
    const mine = ownFolder(path.join(place, 'mine'), us);
    expect(lstatSync(mine).mode & 0o777).toBe(0o700);
    expect(ownFolder(mine, us)).toBe(mine);
    expect(isOurs(mine, us)).toBe(true);
    symlinkSync(mine, path.join(place, 'link'));
    expect(isOurs(path.join(place, 'link'), us)).toBe(false);
    mkdirSync(path.join(place, 'open'), { mode: 0o777 });
    chmodSync(path.join(place, 'open'), 0o777);
    expect(isOurs(path.join(place, 'open'), us)).toBe(false);
    if (us.uid !== 0) expect(isOurs(mine, nobody)).toBe(false);
  });

  it('files are written in place of links, never through them, and never read through one', () => {
    const place = temporary();
    const target = path.join(place, 'target');
    writeFileSync(target, 'as it was');
    symlinkSync(target, path.join(place, 'port'));
    expect(readOwn(path.join(place, 'port'))).toBeUndefined();
    symlinkSync(target, path.join(place, 'other'));
    writeOwn(path.join(place, 'other'), '5432', undefined);
    expect(readFileSync(target, 'utf8')).toBe('as it was');
    expect(readOwn(path.join(place, 'other'))).toBe('5432');
    expect(lstatSync(path.join(place, 'other')).isSymbolicLink()).toBe(false);
  });

  it('a lock is waited for while its holder runs, and taken over from one that is gone', async () => {
    const file = path.join(temporary(), 'lock');
    writeFileSync(file, '999999999');
    const release = await takeLock(file, 'test');
    expect(readFileSync(file, 'utf8')).toBe(`${process.pid}\n${file}`);
    release();
    expect(existsSync(file)).toBe(false);
  });
});
