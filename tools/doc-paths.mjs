// Whether every file and folder of the code that a document names is there: says those that are not.
import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { say } from './say.mjs';
import { root } from './setup.mjs';

const code = ['core', 'contracts', 'server', 'web', 'demo', 'tests', 'tools'];
const decisions = readdirSync(path.join(root, 'docs/decisions')).map((n) => `docs/decisions/${n}`);
const documents = ['README.md', 'CONTRIBUTING.md', 'docs/tour.md', ...decisions];

const there = readdirSync(root).concat(
  code.flatMap((folder) =>
    readdirSync(path.join(root, folder), { recursive: true }).map((name) => `${folder}/${name}`),
  ),
);
/** Named whole, or by the end of its path. */
const known = (name) => there.some((one) => one === name || one.endsWith(`/${name}`));
/** Names in backticks: `core/song`, `web/step/step-panel.tsx`, `tally.ts`. */
const named = new RegExp(`\`([\\w./-]+\\.(?:tsx?|mjs)|(?:${code.join('|')})/[\\w./-]+)\``, 'g');

const missing = documents.flatMap((document) =>
  [...readFileSync(path.join(root, document), 'utf8').matchAll(named)]
    .map(([, name]) => name.replace(/\/$/, ''))
    .filter((name) => !known(name))
    .map((name) => `${document} names ${name}, which is not there`),
);
for (const line of missing) say(line);
process.exit(missing.length === 0 ? 0 : 1);
