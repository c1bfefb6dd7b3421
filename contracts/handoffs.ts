import { z } from 'zod';
import { handoffSettings } from '#core/handoff/handoff.ts';
import type { Shown } from '#core/units/shown.ts';

export const handoffRequestSchema = handoffSettings.extend({
  revision: z
    .int()
    .min(0)
    .optional()
    .meta({ description: 'The revision you looked at; another head is refused with 409.' }),
});

const kinds = z.record(z.string(), z.number());

export const slipSchema = z.object({
  song: z.string(),
  file: z.string(),
  bytes: z.int(),
  sha256: z.string(),
  format: z.union([z.literal(0), z.literal(1)]),
  division: z.string(),
  tracks: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      channels: z.array(z.int()).meta({ description: 'As stored, from 0.' }),
      events: z.int(),
      notes: z.int(),
      state: z.enum(['same bytes', 'same events', 'changed', 'new']),
      added: kinds,
      removed: kinds,
    }),
  ),
  removed: z.array(z.object({ name: z.string(), events: z.int() })),
  reordered: z.boolean(),
  notes: z.array(z.string()),
  proof: z.object({
    holds: z.boolean(),
    tracks: z.int(),
    events: z.int(),
    differences: z.array(z.string()),
  }),
  sameAsOriginal: z.boolean(),
});

export const handoffSchema = z.object({
  id: z.uuid(),
  revision: z.int(),
  at: z.iso.datetime(),
  files: z.array(z.object({ name: z.string(), bytes: z.int(), sha256: z.string() })),
  slip: slipSchema,
});
export type HandoffView = Shown<z.infer<typeof handoffSchema>>;
export const handoffListSchema = z.object({ handoffs: z.array(handoffSchema) });
