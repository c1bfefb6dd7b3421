// npm run bench: speed and memory as ratios measured in one run, against independent packages and a bare byte scan.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { lightUnderHeavy } from './bench-light.mjs';
import { historyGrowth, memoryPath } from './bench-path.mjs';
import { pageLoad } from './bench-page.mjs';
import { touchedOnly } from './bench-touch.mjs';
import { ensurePackages, root } from './setup.mjs';

ensurePackages();
const run = spawnSync(
  process.execPath,
  ['--expose-gc', '--import', 'tsx', path.join(root, 'tools', 'bench-smf.ts')],
  { cwd: root, stdio: 'inherit' },
);
if (run.status !== 0) process.exit(run.status ?? 1);
console.log('\nMemory from upload to slip, through the server');
await memoryPath(10_000_000, console.log);
console.log('\nA step costs what it touches');
await touchedOnly(console.log);
console.log('\nLight work beside heavy work');
await lightUnderHeavy(console.log);
console.log('\nThe page');
await pageLoad(console.log);
console.log('\nSteps of history');
await historyGrowth(console.log);
process.exit(0);
