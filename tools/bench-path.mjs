// Memory from upload to slip: ten million events through the real server, and how much of it was ever in use at once.
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { startCluster } from './postgres.mjs';
import { ensureBuild, ensureDebian, root } from './setup.mjs';

/** Bytes of an event in columns (core/smf/events.ts). */
const bytesOfEvent = 15;

/** A file of one track of notes, as many events as wanted: four bytes each. */
function fileOf(events) {
  const body = Buffer.alloc(events * 4);
  for (let n = 0; n < events; n++)
    body.set(
      [
        n % 2 ? 60 : 0,
        n % 2 ? 0x80 : 0x90,
        40 + ((n >> 1) % 40),
        n % 2 ? 64 : 1 + ((n >> 1) % 100),
      ],
      n * 4,
    );
  const head = Buffer.from([
    0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 1, 0, 1, 1, 0xe0, 0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, 0,
  ]);
  head.writeUInt32BE(body.length + 4, 18);
  return Buffer.concat([head, body, Buffer.from([0, 0xff, 0x2f, 0])]);
}

const peakBytes = (pid) =>
  Number(/VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) * 1024;

/** Runs `work` with a server of its own on an empty database. */
export async function withServer(work) {
  ensureDebian({ browser: false });
  ensureBuild();
  const data = mkdtempSync(path.join(tmpdir(), 'satchel-bench-'));
  const cluster = await startCluster(path.join(root, '.satchel-test'));
  const url = cluster.create(`bench_${process.pid}_${Date.now()}`);
  const env = {
    ...process.env,
    NODE_ENV: 'production',
    SATCHEL_PORT: '0',
    SATCHEL_DATA: data,
    SATCHEL_DATABASE_URL: url,
    SATCHEL_LOG: 'error',
  };
  const server = spawn(process.execPath, [path.join(root, 'dist', 'server', 'index.js')], {
    env,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  try {
    const address = await new Promise((resolve, reject) => {
      server.stdout.on(
        'data',
        (text) =>
          /listening on (http:\S+)/.exec(text)?.[1] &&
          resolve(/listening on (http:\S+)/.exec(text)[1]),
      );
      server.once('exit', (code) => reject(new Error(`The server ended with ${code}`)));
    });
    return await work(address, server);
  } finally {
    server.kill('SIGTERM');
    await new Promise((resolve) => server.once('exit', resolve));
    rmSync(data, { recursive: true, force: true });
  }
}

export async function ask(address, method, place, body) {
  const began = performance.now();
  const response = await fetch(address + place, {
    method,
    ...(body instanceof FormData
      ? { body }
      : body
        ? { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }
        : {}),
  });
  return { answer: await response.json(), status: response.status, ms: performance.now() - began };
}

export async function bring(address, bytes) {
  const form = new FormData();
  form.append('file', new Blob([bytes]), 'bench.mid');
  return ask(address, 'POST', '/api/songs', form);
}

export const memoryPath = (events, print) =>
  withServer(async (address, server) => {
    const own = events * bytesOfEvent;
    const timesOwn = () => (peakBytes(server.pid) - 300e6) / own;
    const told = (what, { status, ms, answer }) => {
      print(
        `  ${what.padEnd(58)} ${status}, ${(ms / 1000).toFixed(1)} s, at most ${timesOwn().toFixed(1)} times the events' size, and 300 MB`,
      );
      return answer;
    };
    const { songs } = told(
      `upload of ${events.toLocaleString('en')} events`,
      await bring(address, fileOf(events)),
    );
    const at = `/api/songs/${songs[0].id}`;
    told(
      'a step on all of them',
      await ask(address, 'POST', `${at}/steps`, {
        operation: 'velocity.set',
        settings: { add: 3 },
        revision: 0,
      }),
    );
    told('handoff as received', await ask(address, 'POST', `${at}/handoffs`, {}));
    const { slip } = told(
      'handoff as format 0',
      await ask(address, 'POST', `${at}/handoffs`, { format: 0 }),
    );
    const times = timesOwn();
    print(
      `  proof ${slip?.proof.holds ? 'holds' : 'DOES NOT HOLD'}; ${times <= 8 ? 'within' : 'BEYOND'} 8 times the events' own size (${bytesOfEvent} bytes each) and 300 MB`,
    );
    return times;
  });

/** What a long history costs: a song seen, stepped on, undone and handed off after 50, 200 and 800 steps. */
export const historyGrowth = (print) =>
  withServer(async (address) => {
    const { answer } = await bring(address, fileOf(2000));
    const at = `/api/songs/${answer.songs[0].id}`;
    const took = { seen: [], stepped: [], undone: [], 'handed off': [] };
    const median = async (act) => {
      const times = [];
      for (let n = 0; n < 5; n++) times.push((await act(n)).ms);
      return times.sort((a, b) => a - b)[2];
    };
    let revision = 0;
    const step = async (n) => {
      const done = await ask(address, 'POST', `${at}/steps`, {
        operation: 'song.name',
        settings: { title: `name ${revision} ${n}` },
        revision,
      });
      revision = done.answer.revision;
      return done;
    };
    for (const steps of [50, 200, 800]) {
      while (revision < steps) await step(0);
      took.seen.push(await median(() => ask(address, 'GET', at)));
      took.stepped.push(await median(step));
      took.undone.push(
        await median(
          async (n) => await ask(address, 'POST', `${at}/${n % 2 ? 'redo' : 'undo'}`, {}),
        ),
      );
      await ask(address, 'POST', `${at}/redo`, {});
      took['handed off'].push(await median(() => ask(address, 'POST', `${at}/handoffs`, {})));
    }
    for (const [what, ms] of Object.entries(took))
      print(
        `  ${`a song ${what} after 50 / 200 / 800 steps`.padEnd(58)} ${ms.map((m) => m.toFixed(0)).join(' / ')} ms`,
      );
  });
