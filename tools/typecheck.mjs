// Types of every part, each with the libraries it may know. The parts refer to each other, so that each is
// checked once, and not at all where nothing changed since.
import { spawnSync } from 'node:child_process';
import path from 'node:path';

const root = path.resolve(import.meta.dirname, '..');
const tsc = path.join(root, 'node_modules', 'typescript7', 'bin', 'tsc');
const run = spawnSync(process.execPath, [tsc, '-b', 'tests'], { cwd: root, stdio: 'inherit' });
process.exit(run.status === 0 ? 0 : 1);
