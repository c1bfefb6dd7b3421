// Types of every part, each with the libraries it may know.
import { spawnSync } from 'node:child_process';
import path from 'node:path';

const root = path.resolve(import.meta.dirname, '..');
const tsc = path.join(root, 'node_modules', 'typescript7', 'bin', 'tsc');
let failed = 0;
for (const part of ['core', 'contracts', 'server', 'web', 'tests']) {
  const run = spawnSync(process.execPath, [tsc, '-p', part], { cwd: root, stdio: 'inherit' });
  if (run.status !== 0) failed++;
}
process.exit(failed ? 1 : 0);
