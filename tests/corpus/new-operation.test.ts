import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, expect, it } from 'vitest';

const root = path.resolve(import.meta.dirname, '../..');
const copy = mkdtempSync(path.join(tmpdir(), 'satchel-operation-'));
afterAll(() => rmSync(copy, { recursive: true, force: true }));

const node = (...args: string[]) =>
  spawnSync(process.execPath, args, { cwd: copy, encoding: 'utf8' });

it('issue 10.10: what the new-operation tool writes compiles, is listed, and keeps the laws', () => {
  for (const part of [
    'core',
    'contracts',
    'demo',
    'server',
    'web',
    'tests',
    'tools',
    'package.json',
    'tsconfig.base.json',
  ])
    cpSync(path.join(root, part), path.join(copy, part), { recursive: true });
  symlinkSync(path.join(root, 'node_modules'), path.join(copy, 'node_modules'));
  writeFileSync(
    path.join(copy, 'vitest.config.mjs'),
    'export default { test: { include: ["core/operations/*laws.test.ts"], testTimeout: 120000 } };\n',
  );
  const made = node('tools/new-operation.mjs', 'tracks.try-out');
  expect(made.status, made.stderr).toBe(0);
  expect(readFileSync(path.join(copy, 'core/operations/index.ts'), 'utf8')).toContain(
    '  tracksTryOut,\n];',
  );
  const types = node('node_modules/typescript7/bin/tsc', '-p', 'core');
  expect(types.status, types.stdout).toBe(0);
  const laws = node(
    'node_modules/vitest/vitest.mjs',
    'run',
    'core/operations',
    '-t',
    'tracks.try-out|ids are unique',
  );
  expect(laws.status, laws.stdout + laws.stderr).toBe(0);
  expect(laws.stdout).toMatch(/passed/);
  // A second one of the same name is refused, and nothing is written over.
  expect(node('tools/new-operation.mjs', 'tracks.try-out').status).not.toBe(0);
});
