// npm run docs:follow: adds an operation as docs/adding-an-operation.md tells it, in a copy of the code,
// and runs what the page says must be green.
import { execFileSync, spawnSync } from 'node:child_process';
import {
  cpSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { say } from './say.mjs';
import { root } from './setup.mjs';

const id = 'velocity.halve';
const copy = mkdtempSync(path.join(tmpdir(), 'satchel-follow-'));
const bin = (name) => path.join(copy, 'node_modules', '.bin', name);

/** The code as it stands, committed or not, with the packages that are installed here. */
function copied() {
  const asked = ['ls-files', '--cached', '--others', '--exclude-standard'];
  const files = execFileSync('git', asked, { cwd: root, encoding: 'utf8' }).trim().split('\n');
  for (const file of files) {
    mkdirSync(path.dirname(path.join(copy, file)), { recursive: true });
    cpSync(path.join(root, file), path.join(copy, file));
  }
  symlinkSync(path.join(root, 'node_modules'), path.join(copy, 'node_modules'));
}

function run(what, command, args) {
  const { status, stdout, stderr } = spawnSync(command, args, {
    cwd: copy,
    encoding: 'utf8',
    env: { ...process.env, SATCHEL_KEEP_CLUSTER: '1' },
  });
  if (status === 0) return say(`${what}: fine`);
  rmSync(copy, { recursive: true, force: true });
  throw new Error(`${what} fails as the page tells it:\n${stdout}\n${stderr}`);
}

const laws = ['contract', 'laws', 'fault-laws', 'versions'].map(
  (name) => `core/operations/${name}.test.ts`,
);
/** Unit tests need no database: they are run without what the others set up. */
const vitest = (...args) => [
  'run',
  '--config',
  path.join(copy, 'vitest.follow.config.ts'),
  ...args,
];

copied();
writeFileSync(
  path.join(copy, 'vitest.follow.config.ts'),
  "import { defineConfig } from 'vitest/config';\nexport default defineConfig({ test: { include: ['core/**/*.test.ts'], testTimeout: 120_000 } });\n",
);
run('It is begun', process.execPath, ['tools/new-operation.mjs', id]);
run('As it is begun, its types', process.execPath, ['tools/typecheck.mjs']);
run('As it is begun, the laws', bin('vitest'), vitest('core/operations/laws.test.ts', '-t', id));
const page = readFileSync(path.join(copy, 'docs', 'adding-an-operation.md'), 'utf8');
const [, whole] = /## The whole of one[\s\S]*?```ts\n([\s\S]*?)```/.exec(page);
writeFileSync(path.join(copy, 'core/operations', id.replace('.', '/'), 'operation.ts'), whole);
run('Its page and version', bin('tsx'), ['tools/docs.ts']);
run('Types', process.execPath, ['tools/typecheck.mjs']);
run('Formatting', bin('prettier'), ['--check', 'core/operations']);
run('Lint', bin('eslint'), ['core/operations', '--max-warnings', '0']);
run('Contract, laws and versions', bin('vitest'), vitest(...laws, '-t', id));
run('The docs are up to date', bin('tsx'), ['tools/docs.ts', '--check']);
rmSync(copy, { recursive: true, force: true });
