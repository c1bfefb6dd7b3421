// npm run fuzz [NUMBER]: reads that many damaged files (default a million).
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { ensurePackages, root } from './setup.mjs';

ensurePackages();
const run = spawnSync(
  path.join(root, 'node_modules', '.bin', 'vitest'),
  ['run', '--config', 'vitest.server.config.ts', 'tests/corpus'],
  {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, SATCHEL_MUTANTS: process.argv[2] ?? '1000000' },
  },
);
process.exit(run.status ?? 1);
