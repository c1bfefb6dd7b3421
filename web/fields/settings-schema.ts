import { z } from 'zod';
import type { Field } from './field.ts';

/** What of a value is wrong, in our words; where several readings of it are, the first. */
function words(issue: z.core.$ZodRawIssue): string {
  switch (issue.code) {
    case 'too_small':
      return issue.origin === 'number' || issue.origin === 'int'
        ? `${String(issue.minimum)} at least.`
        : 'It is too short.';
    case 'too_big':
      return issue.origin === 'number' || issue.origin === 'int'
        ? `${String(issue.maximum)} at most.`
        : 'It is too long.';
    case 'invalid_type':
      return issue.expected === 'int' ? 'A whole number.' : 'It is of another kind.';
    case 'invalid_union':
      return issue.errors?.flat()[0]?.message ?? 'It is of another kind.';
    default:
      return 'It cannot be that.';
  }
}

type Settings = z.ZodType<Record<string, unknown>, Record<string, unknown>>;

const schemas = new WeakMap<Readonly<Record<string, Field>>, Settings>();

/** Patterns are of Unicode, which JSON Schema does not say: the preview, which has them whole, holds texts against them. */
function withoutPatterns(schema: unknown): unknown {
  if (Array.isArray(schema)) return schema.map(withoutPatterns);
  if (typeof schema !== 'object' || schema === null) return schema;
  return Object.fromEntries(
    Object.entries(schema)
      .filter(([key, value]) => !(key === 'pattern' && typeof value === 'string'))
      .map(([key, value]) => [key, withoutPatterns(value)]),
  );
}

/** Settings as their fields describe them, each by itself: what is not given yet is not wrong. */
export function settingsSchema(fields: Readonly<Record<string, Field>>): Settings {
  const known = schemas.get(fields);
  if (known) return known;
  const shape = Object.fromEntries(
    Object.entries(fields).map(([name, field]) => [
      name,
      z.fromJSONSchema(withoutPatterns(field) as z.core.JSONSchema.JSONSchema).optional(),
    ]),
  );
  const made: Settings = z.looseObject(shape);
  schemas.set(fields, made);
  return made;
}

export const inOurWords = { error: words } as const;
