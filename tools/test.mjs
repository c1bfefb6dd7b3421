// npm test: set up, then types, lint, unit tests with a tenth of the random runs, HTTP tests, and the browser
// paths that cover the job: within ten minutes on two cores. Closes with a line "N passed, N failed".
import path from 'node:path';
import { takeLock } from './lock.mjs';
import { startCluster } from './postgres.mjs';
import { ensureBuild, ensureDebian, ensurePackages, root } from './setup.mjs';
import { staticChecks } from './static-checks.mjs';
import { playwright, Run, vitest } from './testing.mjs';

const release = await takeLock(path.join(root, '.satchel-lock'), 'start');
ensureDebian({ browser: true });
ensurePackages();
ensureBuild();
const cluster = await startCluster(path.join(root, '.satchel-test'));
release();

const run = new Run();
await run.parts(staticChecks, 2);
await run.part(vitest('Unit tests', 'vitest.config.ts'));
await run.part(vitest('HTTP tests', 'vitest.server.config.ts', ['tests/http']));
await run.part(playwright('Browser paths', ['--grep', '@quick']));
cluster.stop();
run.close({ isLast: false });
