// npm run test:deep: everything, part by part: all random runs, damaged files, kills, migrations, growth, the
// trial, docs followed to the letter, sound, mutants, the whole browser suite. Within 90 minutes on two cores.
// A part that passed for the very same files is not run again: --again runs all of them.
// --share SEED --minutes N: parts in an order drawn by the seed, as far as the minutes go.
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { takeLock } from './lock.mjs';
import { startCluster } from './postgres.mjs';
import { say } from './say.mjs';
import { ensureBuild, ensureDebian, ensurePackages, root } from './setup.mjs';
import { staticChecks } from './static-checks.mjs';
import { check, playwright, Run, vitest } from './testing.mjs';

const { values: asked } = parseArgs({
  options: {
    again: { type: 'boolean', default: false },
    list: { type: 'boolean', default: false },
    share: { type: 'string' },
    minutes: { type: 'string' },
    only: { type: 'string' },
  },
});

const all = { SATCHEL_TEST_RUNS: '1' };
const node = (title, ...args) => check(title, process.execPath, args, all);
const shards = (title, many, make) =>
  Array.from({ length: many }, (_, n) =>
    make(`${title}, share ${n + 1} of ${many}`, ['--shard', `${n + 1}/${many}`]),
  );
const server = (title, folder) => vitest(title, 'vitest.server.config.ts', [folder], all);

const parts = [
  ...staticChecks,
  ...shards('Unit tests with all random runs', 6, (title, more) =>
    vitest(title, 'vitest.config.ts', more, all),
  ),
  server('HTTP tests, with 20,000 songs and 720 files', 'tests/http'),
  server('Damaged files', 'tests/corpus'),
  server('Killed, migrated and started again', 'tests/faults'),
  server('Rendered sound', 'tests/sound'),
  ...shards('Browser tests', 6, (title, more) => playwright(title, more, all)),
  node('Trial over files with faults made', 'tools/trial.mjs', '--made'),
  node('Adding an operation as its page tells it', 'tools/follow-docs.mjs'),
  // Longer than any share of minutes, so in the whole run alone.
  { ...node('Mutants of the heart', 'tools/mutants.mjs', '--count', '30'), isLong: true },
];

/** All files as they are, committed or not: parts that passed for them need not run again. */
function sourceHash() {
  const listed = execFileSync('git', ['ls-files', '-co', '--exclude-standard'], {
    cwd: root,
    encoding: 'utf8',
  });
  const hash = createHash('sha256');
  for (const file of listed.trim().split('\n').sort())
    if (existsSync(path.join(root, file)))
      hash.update(file).update(readFileSync(path.join(root, file)));
  return hash.digest('hex');
}

/** Another order for each seed: of many submissions every part comes first in some. */
const drawn = (list, seed) =>
  list
    .map((part) => [
      createHash('sha256')
        .update(seed + part.title)
        .digest('hex'),
      part,
    ])
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([, part]) => part);

if (asked.list) {
  for (const { title } of parts) say(title);
  process.exit();
}
const release = await takeLock(path.join(root, '.satchel-lock'), 'start');
ensureDebian({ browser: true });
ensurePackages();
ensureBuild();
const cluster = await startCluster(path.join(root, '.satchel-test'));
release();

const stateFile = path.join(root, '.satchel-cache', 'deep.json');
const source = sourceHash();
const before = existsSync(stateFile) ? JSON.parse(readFileSync(stateFile, 'utf8')) : {};
const done = new Map(asked.again || before.source !== source ? [] : before.passed);
const run = new Run();
const stop = new AbortController();
process.once('SIGINT', () => stop.abort());
const limit = asked.minutes ? setTimeout(() => stop.abort(), Number(asked.minutes) * 60_000) : 0;
const chosen = parts.filter(
  (p) => (!asked.only || p.title.includes(asked.only)) && !(asked.share && p.isLong),
);
const cutOff = [];
for (const part of asked.share ? drawn(chosen, asked.share) : chosen) {
  if (done.has(part.title)) {
    run.passed += done.get(part.title);
    continue;
  }
  const passedBefore = run.passed;
  const fine = stop.signal.aborted ? undefined : await run.part(part, { signal: stop.signal });
  if (fine === undefined) cutOff.push(part.title);
  if (!fine) continue;
  done.set(part.title, run.passed - passedBefore);
  mkdirSync(path.dirname(stateFile), { recursive: true });
  writeFileSync(stateFile, JSON.stringify({ source, passed: [...done] }));
}
clearTimeout(limit);
cluster.stop();
if (cutOff.length > 0)
  say(`\nNot run, for the time was up: ${cutOff.join('; ')}. That is no failure.`);
run.close({ isLast: true, mayBeEmpty: cutOff.length > 0 });
