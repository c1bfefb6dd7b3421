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
  for (let n = 0; n < events; n++) body.set([n % 2 ? 60 : 0, n % 2 ? 0x80 : 0x90, 40 + ((n >> 1) % 40), n % 2 ? 64 : 1 + ((n >> 1) % 100)], n * 4);
  const head = Buffer.from([0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 1, 0, 1, 1, 0xe0, 0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, 0]);
  head.writeUInt32BE(body.length + 4, 18);
  return Buffer.concat([head, body, Buffer.from([0, 0xff, 0x2f, 0])]);
}

const peakBytes = (pid) => Number(/VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) * 1024;

export async function memoryPath(events, print) {
  ensureDebian({ browser: false });
  ensureBuild();
  const data = mkdtempSync(path.join(tmpdir(), 'satchel-bench-'));
  const cluster = await startCluster(path.join(root, '.satchel-test'));
  const url = cluster.create(`bench_${process.pid}_${Date.now()}`);
  const env = { ...process.env, NODE_ENV: 'production', SATCHEL_PORT: '0', SATCHEL_DATA: data, SATCHEL_DATABASE_URL: url, SATCHEL_LOG: 'error' };
  const server = spawn(process.execPath, [path.join(root, 'dist', 'server', 'index.js')], { env, stdio: ['ignore', 'pipe', 'inherit'] });
  try {
    const address = await new Promise((resolve, reject) => {
      server.stdout.on('data', (text) => /listening on (http:\S+)/.exec(text)?.[1] && resolve(/listening on (http:\S+)/.exec(text)[1]));
      server.once('exit', (code) => reject(new Error(`The server ended with ${code}`)));
    });
    const form = new FormData();
    form.append('file', new Blob([fileOf(events)]), 'bench.mid');
    const own = events * bytesOfEvent;
    const seen = (what, began, status) => print(`  ${what.padEnd(58)} ${status}, ${((performance.now() - began) / 1000).toFixed(1)} s, at most ${((peakBytes(server.pid) - 300e6) / own).toFixed(1)} times the events' size, and 300 MB`);
    const post = async (what, place, body) => {
      const began = performance.now();
      const response = await fetch(address + place, { method: 'POST', ...(body instanceof FormData ? { body } : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }) });
      const answer = await response.json();
      seen(what, began, response.status);
      return answer;
    };
    const { songs } = await post(`upload of ${events.toLocaleString('en')} events`, '/api/songs', form);
    const at = `/api/songs/${songs[0].id}`;
    await post('a step on all of them', `${at}/steps`, { operation: 'velocity.set', settings: { add: 3 }, revision: 0 });
    await post('handoff as received', `${at}/handoffs`, {});
    const { slip } = await post('handoff as format 0', `${at}/handoffs`, { format: 0 });
    const times = (peakBytes(server.pid) - 300e6) / own;
    print(`  proof ${slip?.proof.holds ? 'holds' : 'DOES NOT HOLD'}; ${times <= 8 ? 'within' : 'BEYOND'} 8 times the events' own size (${bytesOfEvent} bytes each) and 300 MB`);
    return times;
  } finally {
    server.kill('SIGTERM');
    await new Promise((resolve) => server.once('exit', resolve));
    rmSync(data, { recursive: true, force: true });
  }
}
