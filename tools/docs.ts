import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { z } from 'zod';
import { receiverFileSchema } from '#core/handoff/receiver/receiver.ts';
import { definitionFileSchema } from '#core/instruments/definition.ts';
import { operations } from '#core/operations/index.ts';
import type { Operation } from '#core/operations/operation.ts';
import { settingsDigest } from './settings-digest.ts';

/**
 * Writes docs/operations from the definitions, and the schema of files of instruments; with --check, only
 * says whether it is up to date.
 */
const root = path.resolve(import.meta.dirname, '..');
const folder = path.join(root, 'docs', 'operations');

interface Field {
  readonly title?: string;
  readonly description?: string;
  readonly type?: string | string[];
  readonly default?: unknown;
  readonly minLength?: number;
  readonly maxLength?: number;
  readonly minimum?: number;
  readonly maximum?: number;
  readonly unit?: string;
  readonly anyOf?: readonly Field[];
}

function fieldLine(name: string, field: Field): string {
  const type = [field.type ?? field.anyOf?.map((f) => f.type).join(' or ')].flat().join(' or ');
  const range =
    field.minimum !== undefined
      ? `${field.minimum} to ${field.maximum}`
      : field.maxLength !== undefined
        ? `${field.minLength ?? 0} to ${field.maxLength} characters`
        : '';
  const said = [field.title, field.description].filter(Boolean).join('. ');
  return `| \`${name}\` | ${type} | ${[range, field.unit].filter(Boolean).join(' ')} | ${field.default === undefined ? '' : JSON.stringify(field.default)} | ${said} |`;
}

function page(operation: Operation): string {
  const schema = z.toJSONSchema(operation.settings, { io: 'input' }) as {
    properties?: Record<string, Field>;
  };
  const fields = Object.entries(schema.properties ?? {});
  const notes = path.join(root, 'core', 'operations', ...operation.id.split('.'), 'notes.md');
  return [
    `# ${operation.title}`,
    '',
    operation.summary,
    '',
    `Id \`${operation.id}\`, version ${operation.version}; works on ${operation.scope === 'song' ? 'the whole song' : 'the tracks of the scope'}.`,
    '',
    ...(fields.length > 0
      ? [
          '## Settings',
          '',
          '| name | type | range | default | meaning |',
          '| --- | --- | --- | --- | --- |',
          ...fields.map(([name, field]) => fieldLine(name, field)),
          '',
        ]
      : ['It has no settings.', '']),
    '## Examples',
    '',
    ...operation.examples.flatMap((e) => [
      `${e.says}:`,
      '',
      '```json',
      JSON.stringify(
        { operation: operation.id, settings: e.settings, ...(e.scope ? { scope: e.scope } : {}) },
        null,
        2,
      ),
      '```',
      '',
    ]),
    ...(existsSync(notes) ? [readFileSync(notes, 'utf8').trim(), ''] : []),
  ].join('\n');
}

const versionsFile = path.join(root, 'core', 'operations', 'versions.json');
type Published = Record<string, { version: number; settings: string }>;
const published: Published = existsSync(versionsFile)
  ? (JSON.parse(readFileSync(versionsFile, 'utf8')) as Published)
  : {};
const versions: Published = Object.fromEntries(
  operations.map((o) => [o.id, { version: o.version, settings: settingsDigest(o.settings) }]),
);

const pages = new Map(operations.map((o) => [`${o.id}.md`, page(o)]));
pages.set(
  'README.md',
  [
    '# Operations',
    '',
    'Made from the definitions in `core/operations` by `npm run docs`.',
    '',
    ...operations.map((o) => `- [${o.title}](${o.id}.md): ${o.summary}`),
    '',
  ].join('\n'),
);

pages.set(
  '../instruments.schema.json',
  `${JSON.stringify(z.toJSONSchema(definitionFileSchema, { io: 'input' }), null, 2)}\n`,
);

pages.set(
  '../receivers.schema.json',
  `${JSON.stringify(z.toJSONSchema(receiverFileSchema, { io: 'input' }), null, 2)}\n`,
);

if (process.argv.includes('--check')) {
  const stale = [...pages]
    .filter(
      ([name, text]) =>
        !existsSync(path.join(folder, name)) ||
        readFileSync(path.join(folder, name), 'utf8') !== text,
    )
    .map(([name]) => name);
  const left = existsSync(folder) ? readdirSync(folder).filter((name) => !pages.has(name)) : [];
  if (stale.length + left.length > 0) {
    console.error(
      `docs/operations is not up to date (${[...stale, ...left].join(', ')}): run npm run docs.`,
    );
    process.exit(1);
  }
} else {
  const silent = Object.entries(versions)
    .filter(
      ([id, now]) =>
        published[id]?.version === now.version && published[id].settings !== now.settings,
    )
    .map(([id]) => id);
  if (silent.length > 0) {
    console.error(
      `The settings of ${silent.join(', ')} changed: raise the version, and say in upgrade how older ones are read.`,
    );
    process.exit(1);
  }
  writeFileSync(versionsFile, `${JSON.stringify(versions, null, 2)}\n`);
  mkdirSync(folder, { recursive: true });
  for (const [name, text] of pages) writeFileSync(path.join(folder, name), text);
}
