import { z } from 'zod';
import { takeSchema } from '#core/operations/tracks/bring-in/settings.ts';
import type { Shown } from '#core/units/shown.ts';
import { stageNames } from './stages.ts';
import { clashIn, isKeyCommand, type ChangedKeys } from './key-commands.ts';

/** What the reader prefers, in whatever browser. What is left out is as the product has it. */
export const preferencesSchema = z.strictObject({
  theme: z.enum(['day', 'night']).optional(),
  middleC: z
    .union([z.literal(3), z.literal(4), z.literal(5)])
    .optional()
    .meta({ description: 'Octave number of middle C, key 60.' }),
  converter: z.boolean().optional().meta({ description: 'Whether the strip has its converter.' }),
  chords: z.boolean().optional().meta({ description: 'Whether chords are shown over bars.' }),
  lanesBy: z
    .enum(['track', 'controller'])
    .optional()
    .meta({ description: 'How lanes stand together.' }),
  keys: z
    .record(z.string().max(60), z.string().min(1).max(40))
    .default({})
    .refine((keys) => Object.keys(keys).every(isKeyCommand), 'names of commands')
    .meta({ description: 'Keys that were changed, by command.' }),
  used: z.array(z.enum(stageNames)).max(50).default([]).meta({
    description: 'Stages in which something was done once: they explain themselves no more.',
  }),
  intakes: z
    .array(
      z.strictObject({
        name: z.string().trim().min(1).max(60),
        take: takeSchema,
        keep: z.enum(['bars', 'seconds']),
        how: z.enum(['merge', 'replace', 'where empty']),
      }),
    )
    .max(50)
    .default([])
    .meta({ description: 'Choices of a bring-in that were kept under a name.' }),
  lately: z
    .array(z.string().max(200))
    .max(30)
    .default([])
    .meta({ description: 'Commands that were used last, the latest first.' }),
});
export type PreferencesView = Shown<z.infer<typeof preferencesSchema>>;

export const clashOf = (kept: PreferencesView) => clashIn(kept.keys as ChangedKeys);
