import { afterAll, describe, expect, it } from 'vitest';
import { demoFiles } from '#demo/files.ts';
import type { StepView } from '#contracts/steps.ts';
import { Api } from '../support/api.ts';
import { startServer, testFolder, type RunningServer } from '../support/server.ts';
import { startCluster, type Cluster } from '../../tools/postgres.mjs';
import { dice } from '#demo/theory.ts';
import path from 'node:path';

/**
 * Kills the server or PostgreSQL (SIGKILL, to its postmaster and so to the cluster) at random among 200 steps.
 * The cluster is one of its own with PostgreSQL's own durability settings; nothing is switched off.
 */
const steps = 200;
const seed = Number(process.env.SATCHEL_KILL_SEED ?? 20261123);

let cluster: Cluster;
let server: RunningServer;
let databaseUrl: string;

async function startAll(): Promise<Api> {
  cluster = await startCluster(path.join(testFolder, 'kill'));
  databaseUrl ??= cluster.create(`kill_${process.pid}_${Date.now()}`);
  databaseUrl = databaseUrl.replace(/:\d+\//, cluster.url('x').match(/:\d+\//)![0]);
  server = await startServer(databaseUrl, { SATCHEL_LOG: 'silent' });
  return new Api(server.address);
}

afterAll(async () => {
  await server.stop();
  cluster.stop();
});

const ended = (running: RunningServer): Promise<void> =>
  new Promise((resolve) =>
    running.process.exitCode !== null || running.process.signalCode !== null
      ? resolve()
      : running.process.once('exit', () => resolve()),
  );

describe('killed at random', () => {
  it(`loses no acknowledged step and keeps no half of one (seed ${seed})`, async () => {
    const chance = dice(seed);
    let api = await startAll();
    const { id } = await api.bring('kill.mid', demoFiles[0]!.bytes());
    const acknowledged: string[] = [];
    let kills = 0;
    for (let n = 1; n <= steps; n++) {
      const { revision } = await api.song(id);
      const victim = chance() < 0.12 ? (chance() < 0.5 ? 'server' : 'database') : undefined;
      const name = `name ${n}`;
      const asked = api
        .step(id, revision, 'tracks.rename', { name }, [`t${2 + (n % 12)}`])
        .catch(() => undefined);
      if (victim) {
        await new Promise((resolve) => setTimeout(resolve, chance() * 40));
        process.kill(victim === 'server' ? server.process.pid! : cluster.pid(), 'SIGKILL');
        kills++;
      }
      const answer = await asked;
      if (answer?.status === 200) acknowledged.push(name);
      else expect(victim, JSON.stringify(answer?.body)).toBeDefined();
      if (victim) {
        if (victim === 'database') server.process.kill('SIGKILL');
        await ended(server);
        api = await startAll();
      }
    }
    const { body } = await api.send<{ head: number; steps: StepView[] }>(
      'GET',
      `/api/songs/${id}/steps`,
    );
    const kept = body.steps.map((s) => String(s.settings.name));
    expect(acknowledged.filter((name) => !kept.includes(name))).toEqual([]);
    expect(kills).toBeGreaterThan(10);
    // Whole or not at all: each revision follows the one before, the head is the last, and every track's
    // bytes are there.
    expect(body.steps.map((s) => [s.revision, s.parent])).toEqual(
      body.steps.map((_, i) => [i + 1, i]),
    );
    expect(body.head).toBe(body.steps.length);
    const last = new Map(
      body.steps.map((s) => [(s.scope.tracks as string[])[0]!, String(s.settings.name)]),
    );
    const song = await api.song(id);
    for (const track of song.tracks.slice(1)) expect(track.name).toBe(last.get(track.id));
    expect((await api.handOff(id)).handoff.slip.proof.holds).toBe(true);
    console.log(`${kills} kills, ${acknowledged.length} steps acknowledged, ${kept.length} kept`);
  }, 600_000);
});
