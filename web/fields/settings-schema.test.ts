import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { operations } from '#core/operations/index.ts';
import type { Field } from './field.ts';
import { inOurWords, settingsSchema } from './settings-schema.ts';

/** Fields as the server describes them: JSON Schema 2020-12. */
const fieldsOf = (settings: z.ZodType): Record<string, Field> =>
  (z.toJSONSchema(settings, { io: 'input' }).properties ?? {}) as Record<string, Field>;

const wrongIn = (fields: Record<string, Field>, values: Record<string, unknown>): string[] => {
  const read = settingsSchema(fields).safeParse(values, inOurWords);
  return read.success ? [] : read.error.issues.map((i) => `${String(i.path[0])}: ${i.message}`);
};

describe('settings held against their schema', () => {
  it.each(operations.map((o) => [o.id, o] as const))(
    '%s: its examples are right, and so is what nobody has given yet',
    (_, { settings, examples }) => {
      const fields = fieldsOf(settings);
      expect(wrongIn(fields, {})).toEqual([]);
      for (const { settings: example } of examples)
        expect(wrongIn(fields, example as Record<string, unknown>)).toEqual([]);
    },
  );

  it('what is wrong is said in few words', () => {
    const fields: Record<string, Field> = {
      add: { type: 'integer', minimum: -20, maximum: 20 },
      channel: { anyOf: [{ type: 'integer', minimum: 1, maximum: 16 }, { type: 'null' }] },
      name: { type: 'string', maxLength: 3 },
    };
    expect(wrongIn(fields, { add: 21, channel: 17, name: 'long' })).toEqual([
      'add: 20 at most.',
      'channel: 16 at most.',
      'name: It is too long.',
    ]);
    expect(wrongIn(fields, { add: -21.5 })).toContain('add: A whole number.');
    expect(wrongIn(fields, { add: -21 })).toEqual(['add: -20 at least.']);
    expect(wrongIn(fields, { channel: null })).toEqual([]);
  });
});
