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
/** What failed, told once more at the very end, where whoever reads only the end finds it. */
const failures = [];

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
  const fine = run(title, command, args);
  totals[fine ? 'passed' : 'failed']++;
  if (!fine) failures.push(title);
}

/** A test runner that leaves a report; one that ends badly without a failed test counts as one. */
function tests(title, command, args, env, file, count) {
  const fine = run(title, command, args, env);
  let counted = { passed: 0, failures: [] };
  try {
    counted = count(JSON.parse(readFileSync(path.join(reports, file), 'utf8')));
  } catch {
    counted.failures = [`${title}: no report`];
  }
  if (!fine && counted.failures.length === 0) counted.failures = [`${title}: ended badly`];
  totals.passed += counted.passed;
  totals.failed += counted.failures.length;
  failures.push(...counted.failures);
}

/** Of the report of Vitest: a file that could not be read counts as one failure. */
function countVitest(report) {
  const failed = report.testResults.flatMap((file) => {
    const of = file.assertionResults.filter((test) => test.status === 'failed');
    const name = path.relative(root, file.name);
    if (of.length === 0 && file.status === 'failed') return [`${name}\n${file.message}`];
    return of.map((test) => `${name} › ${test.fullName}\n${test.failureMessages.join('\n')}`);
  });
  return { passed: report.numPassedTests, failures: failed };
}

/** Of the report of Playwright: a test that passed only when tried again has failed. */
function countPlaywright(report) {
  const specs = (suite) => [...suite.specs, ...(suite.suites ?? []).flatMap(specs)];
  const failed = report.suites.flatMap(specs).flatMap((spec) =>
    spec.tests
      .filter((test) => test.status === 'unexpected' || test.status === 'flaky')
      .map((test) => {
        const errors = test.results.flatMap((result) => result.errors ?? []);
        return `${spec.file} › ${spec.title}\n${errors.map((e) => e.message).join('\n')}`;
      }),
  );
  return { passed: report.stats.expected, failures: failed };
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
check('Files that documents name', process.execPath, ['tools/doc-paths.mjs']);
check('Adding an operation, as its page tells it', process.execPath, ['tools/follow-docs.mjs']);
check('The picture of the house', process.execPath, ['tools/house.mjs', '--check']);
tests(
  'Unit, http and fault tests',
  bin('vitest'),
  ['run', '--reporter=dot', '--reporter=json', `--outputFile.json=${reports}/vitest.json`],
  { SATCHEL_KEEP_CLUSTER: '1' },
  'vitest.json',
  countVitest,
);
tests(
  'Browser tests',
  bin('playwright'),
  ['test', '--reporter=line,json'],
  { PLAYWRIGHT_JSON_OUTPUT_NAME: path.join(reports, 'browser.json') },
  'browser.json',
  countPlaywright,
);

cluster.stop();
rmSync(reports, { recursive: true, force: true });
for (const failure of failures) say(`\nFailed: ${failure.slice(0, 1500)}`);
say(`\n${totals.passed} passed, ${totals.failed} failed`);
process.exit(totals.failed === 0 && totals.passed > 0 ? 0 : 1);
