import { z } from 'zod';
import type { Shown } from '#core/units/shown.ts';

export const bankViewSchema = z.object({
  sha256: z.string(),
  name: z.string().meta({ description: 'The name of the file it came in.' }),
  bytes: z.int(),
  format: z.enum(['SF2', 'SF3']),
  presets: z.int(),
  missing: z
    .array(z.int())
    .meta({ description: 'General MIDI programs, from 0, that it has no sound for.' }),
  drums: z.boolean().meta({ description: 'Whether it has drum kits.' }),
  addedAt: z.iso.datetime(),
});
export type BankView = Shown<z.infer<typeof bankViewSchema>>;

export const bankListSchema = z.object({
  banks: z.array(bankViewSchema),
  along: z
    .object({ bytes: z.int() })
    .nullable()
    .meta({ description: 'The sounds that come along; null where they are not installed.' }),
});
export type BankList = Shown<z.infer<typeof bankListSchema>>;
