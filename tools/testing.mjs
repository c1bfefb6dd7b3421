// What the quick and the deep run share: how a part is run, counted and told.
import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { say } from './say.mjs';
import { root } from './setup.mjs';

export const bin = (name) => path.join(root, 'node_modules', '.bin', name);
const reports = mkdtempSync(path.join(tmpdir(), 'satchel-report-'));
let made = 0;

/** Runs a command to its end; what it prints comes in one piece where several run at once. */
function runToEnd({ command, args, env = {} }, { quiet, signal }) {
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: root,
      // A part that may be stopped is ended with all that it started.
      detached: signal !== undefined,
      stdio: quiet ? ['ignore', 'pipe', 'pipe'] : ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...env },
    });
    let printed = '';
    for (const stream of [child.stdout, child.stderr])
      stream?.on('data', (chunk) => (printed += chunk));
    let late;
    const end = (how) => {
      try {
        process.kill(-child.pid, how);
      } catch {
        // It has ended by itself.
      }
    };
    const stop = () => {
      end('SIGTERM');
      late = setTimeout(() => end('SIGKILL'), 15_000);
    };
    signal?.addEventListener('abort', stop, { once: true });
    child.once('close', (status) => {
      signal?.removeEventListener('abort', stop);
      clearTimeout(late);
      if (signal?.aborted) end('SIGKILL');
      resolve({ fine: status === 0, printed });
    });
  });
}

/** Of the report of Vitest: a file that could not be read counts as one failure. */
function countVitest(report) {
  const failures = report.testResults.flatMap((file) => {
    const failed = file.assertionResults.filter((test) => test.status === 'failed');
    const name = path.relative(root, file.name);
    if (failed.length === 0 && file.status === 'failed') return [`${name}\n${file.message}`];
    return failed.map((test) => `${name} › ${test.fullName}\n${test.failureMessages.join('\n')}`);
  });
  return { passed: report.numPassedTests, failures };
}

/** Of the report of Playwright: a test that passed only when tried again has failed. */
function countPlaywright(report) {
  const specs = (suite) => [...suite.specs, ...(suite.suites ?? []).flatMap(specs)];
  const failures = report.suites.flatMap(specs).flatMap((spec) =>
    spec.tests
      .filter((test) => test.status === 'unexpected' || test.status === 'flaky')
      .map((test) => {
        const errors = test.results.flatMap((result) => result.errors ?? []);
        return `${spec.file} › ${spec.title}\n${errors.map((e) => e.message).join('\n')}`;
      }),
  );
  return { passed: report.stats.expected, failures };
}

/** A check that passes or fails as a whole. */
export const check = (title, command, args, env) => ({ title, command, args, env });

/** Vitest with a configuration: `more` are its other arguments. */
export function vitest(title, config, more = [], env = {}) {
  const report = path.join(reports, `${made++}.json`);
  const args = ['run', '--config', config, '--reporter=dot', '--reporter=json'];
  return {
    title,
    command: bin('vitest'),
    args: [...args, `--outputFile.json=${report}`, '--passWithNoTests', ...more],
    env: { SATCHEL_KEEP_CLUSTER: '1', ...env },
    report,
    count: countVitest,
  };
}

export function playwright(title, more = [], env = {}) {
  const report = path.join(reports, `${made++}.json`);
  return {
    title,
    command: bin('playwright'),
    args: ['test', '--reporter=line,json', ...more],
    env: { SATCHEL_KEEP_CLUSTER: '1', PLAYWRIGHT_JSON_OUTPUT_NAME: report, ...env },
    report,
    count: countPlaywright,
  };
}

/** Parts one after another or two at once, with their minutes and what failed. */
export class Run {
  passed = 0;
  /** What failed, told again at the very end, for whoever reads only the end. */
  failures = [];
  times = [];

  /** Runs a part. @returns whether it passed; undefined where it was stopped */
  async part(part, { quiet = false, signal } = {}) {
    if (!quiet) say(`\n— ${part.title}`);
    const began = Date.now();
    const { fine, printed } = await runToEnd(part, { quiet, signal });
    if (signal?.aborted) return undefined;
    this.times.push([part.title, (Date.now() - began) / 1000]);
    if (quiet) say(`\n— ${part.title}${fine ? ': fine' : `\n${printed}`}`);
    const { passed, failures } = this.counted(part, fine);
    this.passed += passed;
    this.failures.push(...failures);
    return failures.length === 0;
  }

  counted({ title, report, count }, fine) {
    if (!report) return { passed: fine ? 1 : 0, failures: fine ? [] : [title] };
    let counted = { passed: 0, failures: [`${title}: no report`] };
    if (existsSync(report)) counted = count(JSON.parse(readFileSync(report, 'utf8')));
    // A runner that ends badly without a failed test counts as one.
    if (!fine && counted.failures.length === 0) counted.failures = [`${title}: ended badly`];
    return counted;
  }

  /** Parts that each keep one core busy. */
  async parts(parts, atOnce) {
    const left = [...parts];
    const work = async () => {
      for (let part = left.shift(); part; part = left.shift())
        await this.part(part, { quiet: true });
    };
    await Promise.all(Array.from({ length: atOnce }, work));
  }

  /**
   * Says what failed and where the minutes went. The closing line counts both runs where one follows the
   * other: the first leaves its counts in the file that SATCHEL_TOTALS names.
   */
  close({ isLast, mayBeEmpty = false }) {
    rmSync(reports, { recursive: true, force: true });
    for (const failure of this.failures) say(`\nFailed: ${failure.slice(0, 1500)}`);
    say('\nMinutes:');
    for (const [title, seconds] of this.times) say(`  ${(seconds / 60).toFixed(1)}  ${title}`);
    const file = process.env.SATCHEL_TOTALS;
    let [passed, failed] = [this.passed, this.failures.length];
    if (file && existsSync(file)) {
      const before = JSON.parse(readFileSync(file, 'utf8') || '[0,0]');
      [passed, failed] = [passed + before[0], failed + before[1]];
    }
    if (file) writeFileSync(file, JSON.stringify([passed, failed]));
    if (isLast || !file || failed > 0) say(`\n${passed} passed, ${failed} failed`);
    process.exitCode = failed === 0 && (passed > 0 || mayBeEmpty) ? 0 : 1;
  }
}
