// npm test: set up, then types, lint, unit tests, http tests, browser tests. Closes with a line "N passed, N failed".
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { say } from './say.mjs';
import { takeLock } from './lock.mjs';
import { startCluster } from './postgres.mjs';
import { ensureBuild, ensureDebian, ensurePackages, root } from './setup.mjs';

const release = await takeLock(path.join(root, '.satchel-lock'), 'start');
ensureDebian({ browser: true });
ensurePackages();
ensureBuild();
const cluster = await startCluster(path.join(root, '.satchel-test'));
release();
const reports = mkdtempSync(path.join(tmpdir(), 'satchel-report-'));
const bin = (name) => path.join(root, 'node_modules', '.bin', name);
const totals = { passed: 0, failed: 0 };

function run(title, command, args, env = {}) {
  say(`\n— ${title}`);
  return (
    spawnSync(command, args, {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...env },
    }).status === 0
  );
}

/** A check that passes or fails as a whole. */
function check(title, command, args) {
  totals[run(title, command, args) ? 'passed' : 'failed']++;
}

/** A test runner that leaves a report; one that ends badly without a failed test counts as one. */
function tests(title, command, args, env, file, count) {
  const fine = run(title, command, args, env);
  let counted = { passed: 0, failed: 0 };
  try {
    counted = count(JSON.parse(readFileSync(path.join(reports, file), 'utf8')));
  } catch {
    counted.failed = 1;
  }
  totals.passed += counted.passed;
  totals.failed += counted.failed + (!fine && counted.failed === 0 ? 1 : 0);
}

check('Types', process.execPath, ['tools/typecheck.mjs']);
check('Formatting', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
check('Lint', bin('eslint'), ['.', '--max-warnings', '0']);
check('Import rules', bin('depcruise'), [
  '--config',
  '.dependency-cruiser.mjs',
  'core',
  'contracts',
  'server',
  'web',
  'demo',
]);
check('Trial over files with faults made', process.execPath, ['tools/trial.mjs', '--made']);
check('Generated docs', bin('tsx'), ['tools/docs.ts', '--check']);
check('Adding an operation, as its page tells it', process.execPath, ['tools/follow-docs.mjs']);
check('The picture of the house', process.execPath, ['tools/house.mjs', '--check']);
tests(
  'Unit, http and fault tests',
  bin('vitest'),
  ['run', '--reporter=dot', '--reporter=json', `--outputFile.json=${reports}/vitest.json`],
  { SATCHEL_KEEP_CLUSTER: '1' },
  'vitest.json',
  (r) => ({ passed: r.numPassedTests, failed: r.numFailedTests }),
);
tests(
  'Browser tests',
  bin('playwright'),
  ['test', '--reporter=line,json'],
  { PLAYWRIGHT_JSON_OUTPUT_NAME: path.join(reports, 'browser.json') },
  'browser.json',
  (r) => ({ passed: r.stats.expected, failed: r.stats.unexpected + r.stats.flaky }),
);

cluster.stop();
rmSync(reports, { recursive: true, force: true });
say(`\n${totals.passed} passed, ${totals.failed} failed`);
process.exit(totals.failed === 0 && totals.passed > 0 ? 0 : 1);
