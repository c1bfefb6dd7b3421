// What is checked without running the product: types, lint, formatting, import rules, docs. The longest first.
import { bin, check } from './testing.mjs';

const cached = (name) => ['--cache', '--cache-location', `.satchel-cache/${name}`];
const code = ['core', 'contracts', 'server', 'web', 'demo'];

export const staticChecks = [
  check('Lint', bin('eslint'), ['.', '--max-warnings', '0', ...cached('eslint')]),
  check('Formatting', bin('prettier'), [
    '--check',
    '--log-level',
    'warn',
    ...cached('prettier'),
    '.',
  ]),
  check('Types', process.execPath, ['tools/typecheck.mjs']),
  check('Import rules', bin('depcruise'), ['--config', '.dependency-cruiser.mjs', ...code]),
  check('Generated docs', bin('tsx'), ['tools/docs.ts', '--check']),
  check('Files that documents name', process.execPath, ['tools/doc-paths.mjs']),
  check('The picture of the house', process.execPath, ['tools/house.mjs', '--check']),
];
