import { z } from 'zod';
import { packings } from '#core/handoff/receiver/receiver.ts';
import { handoffSettings } from '#core/handoff/settings.ts';
import type { Shown } from '#core/units/shown.ts';

export const handoffRequestSchema = handoffSettings.extend({
  revision: z
    .int()
    .min(0)
    .optional()
    .meta({ description: 'The revision you looked at; another head is refused with 409.' }),
  receiver: z.string().max(100).optional().meta({
    description:
      'The id of who it is for: every setting that is not said is set for that receiver.',
  }),
  forecast: z.boolean().default(true).meta({
    description: 'A preview also answers what will not arrive, or arrives changed.',
  }),
  preview: z.boolean().default(false).meta({
    description:
      'Answer which files there would be, and what would be left out or changed, without keeping any.',
  }),
});

export const satchelQuerySchema = z.strictObject({
  song: z
    .enum(['true', 'false'])
    .optional()
    .meta({ description: 'With the song as it is kept; left out, as the receiver takes it.' }),
});

export const linkRequestSchema = z.strictObject({
  days: z.int().min(1).max(365).default(7).meta({ title: 'Days that it is good for' }),
});
const linkSchema = z.object({
  id: z.uuid(),
  at: z.iso.datetime(),
  expiresAt: z.iso.datetime(),
  revoked: z.boolean(),
  downloads: z.int(),
});
export const newLinkSchema = linkSchema.extend({
  path: z.string().meta({ description: 'Behind the address of this server. It is told only now.' }),
  local: z.boolean().meta({
    description: 'The server listens on this machine alone: the link opens nowhere else.',
  }),
});
export const linkListSchema = z.object({ links: z.array(linkSchema) });
export type LinkView = Shown<z.infer<typeof linkSchema>>;
export type NewLink = Shown<z.infer<typeof newLinkSchema>>;

/** The settings of a handoff in an address, which makes the file when it is fetched. */
export const outQuerySchema = z.object({
  settings: z
    .string()
    .max(20_000)
    .default('{}')
    .meta({ description: 'The settings of a handoff, as JSON.' }),
  revision: z.coerce
    .number()
    .int()
    .min(0)
    .optional()
    .meta({ description: 'The revision you looked at; another head is refused with 409.' }),
});

const kinds = z.record(z.string(), z.number());

const extentSchema = z.object({
  tracks: z.int(),
  notes: z.int(),
  bars: z.int(),
  seconds: z.number(),
  timecode: z.object({ from: z.string(), to: z.string() }).optional(),
});

export const slipSchema = z.object({
  song: z.string(),
  file: z.string(),
  bytes: z.int(),
  sha256: z.string(),
  format: z.union([z.literal(0), z.literal(1)]),
  division: z.string(),
  extent: extentSchema
    .optional()
    .meta({ description: 'How long it is; slips of earlier versions do not say.' }),
  copyright: z.array(z.string()).optional().meta({ description: 'Notices that it holds.' }),
  sources: z
    .array(z.string())
    .optional()
    .meta({ description: 'Sources of the original files, as users entered them.' }),
  tracks: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      channels: z.array(z.int()).meta({ description: 'As stored, from 0.' }),
      events: z.int(),
      notes: z.int(),
      state: z.enum(['same bytes', 'same events', 'changed', 'new', 'part']),
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

const fileSchema = z.object({
  name: z.string(),
  bytes: z.int(),
  sha256: z.string(),
  extent: extentSchema.optional(),
  notes: z.array(z.string()).optional().meta({
    description: 'What of it was left out or changed, and why.',
  }),
});
export type HandoffFile = Shown<z.infer<typeof fileSchema>>;

export const handoffSchema = z.object({
  id: z.uuid(),
  revision: z.int(),
  at: z.iso.datetime(),
  files: z.array(fileSchema),
  notes: z.array(z.string()).meta({ description: 'What is said of all files at once.' }),
  settings: z.record(z.string(), z.unknown()),
  receiver: z
    .object({ id: z.string(), name: z.string(), packed: z.enum(packings) })
    .optional()
    .meta({ description: 'Who it was for.' }),
  since: z
    .array(z.string())
    .optional()
    .meta({ description: 'In a list: what was done to the song since, oldest first.' }),
  slip: slipSchema.meta({ description: 'Of the first file.' }),
});
export type HandoffView = Shown<z.infer<typeof handoffSchema>>;
export const handoffListSchema = z.object({ handoffs: z.array(handoffSchema) });

const forecastItemSchema = z.object({
  what: z.string(),
  arrives: z.enum(['not', 'changed']),
  by: z.enum(['setting', 'receiver']),
  says: z.string(),
  count: z.int(),
  tracks: z.array(z.string()),
  bars: z.array(z.object({ from: z.int(), to: z.int() })),
  why: z.string().meta({ description: 'Why it matters to a musician.' }),
  remedy: z
    .union([
      z.object({ says: z.string(), setting: z.record(z.string(), z.unknown()) }),
      z.object({
        says: z.string(),
        step: z.object({
          operation: z.string(),
          settings: z.unknown().optional(),
          scope: z.unknown().optional(),
        }),
      }),
    ])
    .nullable()
    .meta({ description: 'What makes it arrive: settings of the handoff, or a step on the song.' }),
});

export const handoffPreviewSchema = z.object({
  preview: z.literal(true),
  revision: z.int(),
  files: z.array(fileSchema.omit({ sha256: true })),
  forecast: z.array(forecastItemSchema).optional().meta({
    description: 'What will not arrive at the receiver, or arrives changed; the worst first.',
  }),
  notes: z.array(z.string()).meta({
    description: 'What would be left out or changed in all files at once, and why.',
  }),
});
export type HandoffPreview = Shown<z.infer<typeof handoffPreviewSchema>>;

/** A line of the answer where newline-delimited JSON is accepted: how far it is, and last what it was. */
export const progressSchema = z.union([
  z.object({ made: z.int(), of: z.int() }),
  z.object({ handoff: handoffSchema }),
  z.object({ error: z.record(z.string(), z.unknown()) }),
]);
export type HandoffProgress = Shown<z.infer<typeof progressSchema>>;
