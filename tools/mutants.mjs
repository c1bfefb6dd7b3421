// npm run mutants [-- --count 60 --seed 1 --goal 85 --only PATH]: changes one thing of the heart's code at a
// time, in a copy, and asks the tests. Mutants are drawn by a seed; what came of each is kept in
// .satchel-cache/mutants.json, so that a run goes on where it was stopped. Survivors want a test.
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { parseArgs, stripVTControlCharacters } from 'node:util';
import { changesIn } from './mutate-source.mjs';
import { startCluster } from './postgres.mjs';
import { say } from './say.mjs';
import { ensurePackages, root } from './setup.mjs';

ensurePackages();
const { values: asked } = parseArgs({
  options: {
    count: { type: 'string', default: '60' },
    seed: { type: 'string', default: '1' },
    goal: { type: 'string', default: '85' },
    only: { type: 'string' },
    again: { type: 'boolean', default: false },
  },
});
const folders = ['core/handoff', 'core/edit', 'server/store'];
const stateFile = path.join(root, '.satchel-cache', 'mutants.json');

const hashOf = (text) => createHash('sha256').update(text).digest('hex');
const filesIn = (folder) =>
  execFileSync('git', ['ls-files', '-co', '--exclude-standard', folder], {
    cwd: root,
    encoding: 'utf8',
  })
    .trim()
    .split('\n')
    .filter((file) => /\.ts$/.test(file) && !/\.test\.ts$/.test(file));

/** As many mutants of each folder, drawn by the seed; the same draw for the same code. */
function draw() {
  const many = Math.ceil(Number(asked.count) / folders.length);
  const ranked = folders.map((folder) =>
    filesIn(folder)
      .flatMap((file) => {
        const source = readFileSync(path.join(root, file), 'utf8');
        return changesIn(file, source).map((change) => ({ file, ...change, source }));
      })
      .map((mutant) => ({
        ...mutant,
        id: hashOf(`${mutant.file} ${mutant.source.length} ${mutant.at} ${mutant.now}`).slice(
          0,
          12,
        ),
      }))
      .filter(({ file }) => !asked.only || file.includes(asked.only))
      .sort((a, b) => (hashOf(asked.seed + a.id) < hashOf(asked.seed + b.id) ? -1 : 1))
      .slice(0, many),
  );
  return Array.from({ length: many }, (_, n) => ranked.flatMap((list) => list[n] ?? []))
    .flat()
    .slice(0, Number(asked.count));
}

/** The code as it is, with the packages that are installed here. */
function copyCode() {
  const copy = mkdtempSync(path.join(tmpdir(), 'satchel-mutants-'));
  const listed = ['ls-files', '--cached', '--others', '--exclude-standard'];
  for (const file of execFileSync('git', listed, { cwd: root, encoding: 'utf8' })
    .trim()
    .split('\n'))
    if (existsSync(path.join(root, file))) {
      mkdirSync(path.dirname(path.join(copy, file)), { recursive: true });
      cpSync(path.join(root, file), path.join(copy, file));
    }
  symlinkSync(path.join(root, 'node_modules'), path.join(copy, 'node_modules'));
  if (existsSync(path.join(root, 'dist')))
    cpSync(path.join(root, 'dist'), path.join(copy, 'dist'), { recursive: true });
  return copy;
}

/** What runs in the copy at the moment: it is ended with this program. */
let running;

/** Runs a command in the copy; what takes longer than any sound run is ended, and counts as noticed. */
function ends(copy, args, seconds) {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, args, {
      cwd: copy,
      detached: true,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, SATCHEL_KEEP_CLUSTER: '1', SATCHEL_TEST_RUNS: '0.1', NO_COLOR: '1' },
    });
    running = child;
    let printed = '';
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (chunk) => (printed = (printed + chunk).slice(-200_000)));
    const late = setTimeout(() => process.kill(-child.pid, 'SIGKILL'), seconds * 1000);
    child.once('close', (status, signal) => {
      clearTimeout(late);
      running = undefined;
      const plain = stripVTControlCharacters(printed);
      const [, by] = /FAIL\s+(.*)/.exec(plain) ?? [];
      resolve({ passed: status === 0, by: signal ? 'took too long' : (by ?? 'ended badly') });
    });
  });
}

const vitestBin = 'node_modules/vitest/vitest.mjs';
const quiet = ['--reporter=default', '--bail=1', '--passWithNoTests', '--color=false'];
/** The nearest tests first; then all that import the file; then, of the store, the API. */
const stages = ({ file }) => [
  ['run', '--config', 'vitest.config.ts', path.dirname(file), ...quiet],
  ['related', file, '--run', '--config', 'vitest.config.ts', ...quiet],
];
const buildServer = ['vite.server.config.ts', 'vite.worker.config.ts'].map((config) => [
  'node_modules/vite/bin/vite.js',
  'build',
  '--config',
  config,
  '--logLevel',
  'error',
]);

async function judge(copy, mutant) {
  const place = path.join(copy, mutant.file);
  writeFileSync(
    place,
    mutant.source.slice(0, mutant.at) + mutant.now + mutant.source.slice(mutant.to),
  );
  try {
    const isStore = mutant.file.startsWith('server/');
    for (const stage of isStore ? [] : stages(mutant)) {
      const { passed, by } = await ends(copy, [vitestBin, ...stage], 600);
      if (!passed) return by;
    }
    if (!isStore) return undefined;
    for (const build of buildServer) if (!(await ends(copy, build, 120)).passed) return 'the build';
    const http = ['run', '--config', 'vitest.server.config.ts', 'tests/http', ...quiet];
    const { passed, by } = await ends(copy, [vitestBin, ...http], 600);
    return passed ? undefined : by;
  } finally {
    writeFileSync(place, mutant.source);
  }
}

const mutants = draw();
const known =
  existsSync(stateFile) && !asked.again ? JSON.parse(readFileSync(stateFile, 'utf8')) : {};
const copy = copyCode();
const cluster = await startCluster(path.join(copy, '.satchel-test'));
/** Servers that tests started have groups of their own: they are known by the copy that they run in. */
function endServers() {
  const { stdout } = spawnSync('pgrep', ['-f', path.join(copy, 'dist')], { encoding: 'utf8' });
  for (const pid of stdout.split('\n').filter(Boolean)) {
    try {
      process.kill(Number(pid), 'SIGKILL');
    } catch {
      // It has ended by itself.
    }
  }
}
function leave() {
  if (running) process.kill(-running.pid, 'SIGKILL');
  endServers();
  cluster.stop();
  rmSync(copy, { recursive: true, force: true });
}
for (const signal of ['SIGINT', 'SIGTERM'])
  process.once(signal, () => {
    leave();
    process.exit(1);
  });
try {
  for (const [n, mutant] of mutants.entries()) {
    const { id, file, line, was, now } = mutant;
    if (!known[id]) {
      const by = await judge(copy, mutant);
      known[id] = { file, line, was, now, survived: by === undefined, by };
      mkdirSync(path.dirname(stateFile), { recursive: true });
      writeFileSync(stateFile, JSON.stringify(known, null, 1));
    }
    const { survived, by } = known[id];
    say(
      `${n + 1}/${mutants.length} ${survived ? 'SURVIVED' : 'caught'} ${file}:${line}  ${was}  →  ${now}${survived ? '' : `  by ${by}`}`,
    );
  }
} finally {
  leave();
}
const caught = mutants.filter(({ id }) => !known[id].survived).length;
const share = Math.round((100 * caught) / Math.max(1, mutants.length));
say(
  `\n${caught} of ${mutants.length} mutants were caught: ${share} %; the goal is ${asked.goal} %.`,
);
process.exitCode = share >= Number(asked.goal) ? 0 : 1;
