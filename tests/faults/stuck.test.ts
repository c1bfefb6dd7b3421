import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { workedFormat1 } from '#core/smf/worked-examples.ts';
import { startCluster, type Cluster } from '../../tools/postgres.mjs';
import { Api } from '../support/api.ts';
import { scaleTimeout } from '../support/scale.ts';
import { startServer, testFolder, type RunningServer } from '../support/server.ts';

let cluster: Cluster;
let server: RunningServer;
let api: Api;
beforeAll(async () => {
  cluster = await startCluster(path.join(testFolder, 'stuck'));
  const url = cluster.create(`stuck_${process.pid}_${Date.now()}`);
  server = await startServer(url, { SATCHEL_LOG: 'silent' });
  api = new Api(server.address);
});
afterAll(async () => {
  await server.stop();
  cluster.stop();
});

/** Sends a signal to the postmaster and all its processes. */
function signalAll(signal: 'SIGSTOP' | 'SIGCONT'): void {
  const postmaster = cluster.pid();
  const children = execFileSync('pgrep', ['-P', String(postmaster)], { encoding: 'utf8' });
  const ids = [...children.trim().split('\n').map(Number), postmaster];
  for (const id of signal === 'SIGSTOP' ? ids : ids.reverse()) process.kill(id, signal);
}

it('a database that does not answer: each request gets 503 with a remedy, and work goes on when it is back', async () => {
  const { id } = await api.bring('a.mid', workedFormat1);
  const { revision } = await api.song(id);
  signalAll('SIGSTOP');
  try {
    const began = performance.now();
    const [list, health, step] = await Promise.all([
      api.send<{ code: string; remedy: string }>('GET', '/api/songs'),
      api.send<{ code: string }>('GET', '/api/health'),
      api.step(id, revision, 'tracks.rename', { name: 'Maybe' }, ['t2']),
    ]);
    const ms = performance.now() - began;
    expect([list.status, health.status, step.status]).toEqual([503, 503, 503]);
    expect(list.body).toMatchObject({ code: 'database-away' });
    expect(list.body.remedy).toContain('try again');
    // What was to change something may still be done when it is back.
    expect(step.body).toMatchObject({
      remedy: expect.stringContaining('Check whether this was done'),
    });
    // Three seconds on a quiet machine; a pool that waits for a connection took twenty.
    expect(ms).toBeLessThan(scaleTimeout(12_000));
  } finally {
    signalAll('SIGCONT');
  }
  // The step that was not answered may come first; then what is asked is refused once as stale.
  const statuses: number[] = [];
  while (!statuses.includes(200) && statuses.length < 3) {
    const song = await api.song(id);
    const again = await api.step(id, song.revision, 'tracks.rename', { name: 'Now' }, ['t2']);
    statuses.push(again.status);
  }
  expect([[200], [409, 200]]).toContainEqual(statuses);
  expect((await api.song(id)).revision - revision).toBeLessThanOrEqual(2);
});
