// npm start, npm run demo: everything from a fresh checkout to an address to open.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { takeLock } from './lock.mjs';
import { freePort, isFree, startCluster } from './postgres.mjs';
import { say, stop } from './say.mjs';
import { ensureBuild, ensureDebian, ensurePackages, root } from './setup.mjs';

const demo = process.argv.includes('--demo');
const data = path.resolve(process.env.SATCHEL_DATA ?? path.join(root, '.satchel'));
const runningFile = path.join(data, 'running.json');
const defaultPort = 4173;

const why = {
  EACCES: 'this user may not write there',
  EPERM: 'this user may not write there',
  EROFS: 'the disk is read-only',
  ENOSPC: 'the disk is full',
  ENOTDIR: 'a part of its path is a file',
  EEXIST: 'it is a file',
  ENOENT: 'no folder can be made there',
};

/** Ends the start with a sentence where a folder cannot be made or written. */
function needWritable(folder, setting) {
  const probe = path.join(folder, `.probe-${process.pid}`);
  try {
    mkdirSync(folder, { recursive: true });
    writeFileSync(probe, '');
    rmSync(probe);
  } catch (error) {
    stop(`The folder ${folder} cannot be written: ${why[error.code] ?? error.message}. ${setting}`);
  }
}

/** Whether what runs was started on this folder: a copied folder names processes of the first. */
function isOfThisFolder({ data: of, serverPid }) {
  if (of !== undefined) return of === data;
  try {
    const environment = readFileSync(`/proc/${serverPid}/environ`, 'utf8').split('\0');
    return environment.includes(`SATCHEL_DATA=${data}`);
  } catch {
    return true;
  }
}

/** Whether a process of ours still runs: the id alone may have gone to another program. */
function lives(pid, script) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(script);
  } catch {
    return false;
  }
}

/** Another start on the same folder is left alone; what a crashed one left behind is ended. */
function settleEarlier() {
  if (!existsSync(runningFile)) return;
  const earlier = JSON.parse(readFileSync(runningFile, 'utf8'));
  if (!isOfThisFolder(earlier)) return rmSync(runningFile, { force: true });
  if (earlier.startPid !== process.pid && lives(earlier.startPid, 'start.mjs')) {
    say(`Already running: ${earlier.address}`);
    process.exit(0);
  }
  if (lives(earlier.serverPid, path.join('dist', 'server', 'index.js')))
    process.kill(earlier.serverPid, 'SIGKILL');
  rmSync(runningFile, { force: true });
}

async function choosePort() {
  const wanted = process.env.SATCHEL_PORT;
  if (wanted === undefined) return (await isFree(defaultPort)) ? defaultPort : freePort();
  const port = Number(wanted);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    stop(`SATCHEL_PORT must be a port from 0 to 65535, not "${wanted}".`);
  if (port !== 0 && !(await isFree(port)))
    stop(`Port ${port} is taken. Set SATCHEL_PORT to another one.`);
  return port;
}

needWritable(root, 'Put the checkout where this user may write.');
needWritable(data, 'Set SATCHEL_DATA to another folder, or make this one writable.');
const release = await takeLock(path.join(root, '.satchel-lock'), 'start');
settleEarlier();
ensureDebian({ browser: false });
ensurePackages();
ensureBuild();
const port = await choosePort();
const cluster = await startCluster(data).catch((error) => stop(error.message));
const databaseUrl = cluster.create('satchel');

let server;
let ending = false;
/** The port that the server was given the first time: started again, it is found where it was. */
let knownPort = port;
/** When the server was started, lately: one that ends again and again is given up. */
const starts = [];
const mostStarts = { times: 6, withinMs: 60_000 };

function startServer() {
  starts.push(Date.now());
  server = spawn(process.execPath, [path.join(root, 'dist', 'server', 'index.js')], {
    cwd: root,
    env: {
      ...process.env,
      NODE_ENV: 'production',
      SATCHEL_PORT: String(knownPort),
      SATCHEL_DATA: data,
      SATCHEL_DATABASE_FOLDER: cluster.dataFolder,
      SATCHEL_WEB: path.join(root, 'dist', 'web'),
      SATCHEL_DATABASE_URL: databaseUrl,
      SATCHEL_LOG: process.env.SATCHEL_LOG ?? 'warn',
    },
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
    // Its own group: Ctrl-C reaches us alone, and we end it in order.
    detached: true,
  });
  server.once('exit', serverEnded);
  server.stdout.setEncoding('utf8');
  server.stdout.on('data', (text) => {
    const address = /listening on (http:\S+)/.exec(text)?.[1];
    if (address) void listening(address);
    else process.stdout.write(text);
  });
}

/**
 * A server that ended by itself is started again, as the database is: what it had acknowledged is kept,
 * what was under way is not done.
 */
function serverEnded(code) {
  if (ending) return;
  const lately = starts.filter((at) => Date.now() - at < mostStarts.withinMs);
  console.error(`The server ended unexpectedly (${code ?? 'killed'}).`);
  if (lately.length >= mostStarts.times) {
    console.error('It ends again and again; giving up.');
    return end(1);
  }
  console.error(
    'Starting it again: what was acknowledged is kept, what was under way was not done.',
  );
  setTimeout(() => !ending && startServer(), 200 * lately.length);
}

let greeted = false;
async function listening(address) {
  knownPort = Number(new URL(address).port);
  writeFileSync(
    runningFile,
    JSON.stringify({ data, startPid: process.pid, serverPid: server.pid, address }),
  );
  release();
  if (greeted) return say(`It answers again at ${address}.`);
  greeted = true;
  if (demo) await seed(address);
  say(
    `\nAmber Satchel is at ${address}${demo ? ' with the demo' : ''}. Ctrl-C stops it; what you keep stays in ${path.relative(process.cwd(), data) || data}.`,
  );
}

/** As long as the longest work that a server finishes before it stops. */
const finishMs = 150_000;

function end(code) {
  if (ending) return;
  ending = true;
  rmSync(runningFile, { force: true });
  const finish = () => {
    cluster.stop();
    process.exit(code);
  };
  if (server.exitCode !== null || server.signalCode !== null) return finish();
  server.once('exit', finish);
  server.kill('SIGTERM');
  setTimeout(() => server.kill('SIGKILL'), finishMs).unref();
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) {
  process.on(signal, () => {
    // Asked a second time, nothing is waited for.
    if (ending) server.kill('SIGKILL');
    else end(0);
  });
}
startServer();

// A database that was killed comes back on its port; the server's pool finds it again. With a full disk it
// may take several goes.
let restarting = false;
setInterval(async () => {
  if (ending || restarting || cluster.alive()) return;
  restarting = true;
  console.error('The database ended unexpectedly; starting it again.');
  try {
    await startCluster(data);
  } catch (error) {
    console.error(error.message.split('\n')[0]);
  }
  restarting = false;
}, 1000).unref();

async function seed(address) {
  const run = spawn(process.execPath, [path.join(root, 'dist', 'server', 'seed.js'), address], {
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  await new Promise((resolve) => run.once('exit', resolve));
}
