// npm run new:operation tracks.mute — the folder of a new operation and its line in the list.
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { say, stop } from './say.mjs';
import { root } from './setup.mjs';

const id = process.argv[2] ?? '';
if (!/^[a-z]+\.[a-z]+(-[a-z]+)*$/.test(id))
  stop('Usage: npm run new:operation GROUP.VERB, for example tracks.mute');
const groups = [
  'song',
  'timing',
  'bars',
  'tracks',
  'events',
  'controllers',
  'velocity',
  'notes',
  'chords',
];
const [group, verb] = id.split('.');
if (!groups.includes(group)) stop(`The group is one of ${groups.join(', ')}.`);
const folder = `${group}/${verb}`;
const place = path.join(root, 'core', 'operations', folder);
if (existsSync(place)) stop(`core/operations/${folder} is there already.`);
const name = `${group}-${verb}`.replace(/-(\w)/g, (_, letter) => letter.toUpperCase());

mkdirSync(place, { recursive: true });
writeFileSync(
  path.join(place, 'operation.ts'),
  `import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { tracksIn } from '../../../song/scope.ts';
import { defineOperation, emptyReport } from '../../operation.ts';

export const ${name} = defineOperation({
  id: '${id}',
  version: 1,
  title: '${id}',
  summary: 'What it does, in one sentence for somebody who has not used it.',
  group: '${group}',
  scope: 'tracks',
  settings: z.strictObject({}),
  apply(song, _settings, scope) {
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    return ok({ song, report: emptyReport });
  },
  describe: () => 'Did what it does',
  examples: [{ says: 'On every track', settings: {} }],
});
`,
);
const list = path.join(root, 'core', 'operations', 'index.ts');
const text = readFileSync(list, 'utf8');
writeFileSync(
  list,
  text
    // Behind the last import.
    .replace(
      /(^import [^\n]*\n)(?![\s\S]*^import )/m,
      `$1import { ${name} } from './${folder}/operation.ts';\n`,
    )
    .replace(/(const single: readonly Operation\[\] = \[[^\]]*?),?\s*\];/, `$1,\n  ${name},\n];`),
);
say(
  `core/operations/${folder}/operation.ts is begun and listed. Next: docs/adding-an-operation.md.`,
);
