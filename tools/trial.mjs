// npm run trial -- DIR: every rule and operation over every MIDI file below a folder. npm run trial --
// --made: over files with faults made for it.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { ensurePackages, root } from './setup.mjs';

ensurePackages();
const run = spawnSync(
  process.execPath,
  ['--import', 'tsx', path.join(root, 'tools', 'trial', 'trial.ts'), ...process.argv.slice(2)],
  {
    cwd: process.cwd(),
    stdio: 'inherit',
    env: { ...process.env, TSX_TSCONFIG_PATH: path.join(root, 'tests', 'tsconfig.json') },
  },
);
process.exit(run.status ?? 1);
