import { createHash } from 'node:crypto';
import { z } from 'zod';

const words: ReadonlySet<string> = new Set(['title', 'description']);

/** A schema without its titles and descriptions; settings may be called `title`, too. */
function withoutWords(schema: unknown): unknown {
  if (Array.isArray(schema)) return schema.map(withoutWords);
  if (typeof schema !== 'object' || schema === null) return schema;
  return Object.fromEntries(
    Object.entries(schema)
      .filter(([key, value]) => !words.has(key) || typeof value !== 'string')
      .map(([key, value]) => [key, withoutWords(value)]),
  );
}

/** Digest of what steps store: titles and descriptions may change without a new version. */
export const settingsDigest = (settings: z.ZodObject): string =>
  createHash('sha256')
    .update(JSON.stringify(withoutWords(z.toJSONSchema(settings, { io: 'input' }))))
    .digest('hex')
    .slice(0, 16);
