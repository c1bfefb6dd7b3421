import { z } from 'zod';

const text = z.string().max(10_000);

/** What a step's report says, as it is stored and answered. */
export const reportSchema = z.object({
  changes: z.array(
    z.object({
      track: text.optional(),
      name: text,
      did: text,
      counts: z.record(z.string(), z.number()),
      detail: text.optional(),
    }),
  ),
  skipped: z.array(z.object({ track: text.optional(), name: text.optional(), why: text })),
  told: z.array(text).optional(),
});

const timeMapSchema = z.array(
  z.object({ from: z.number(), until: z.number().nullable(), to: z.number(), scale: z.number() }),
);

/** How time moved in a step, as it is stored and answered. */
export const movesSchema = z
  .object({ song: timeMapSchema, tracks: z.record(z.string(), timeMapSchema).optional() })
  .meta({
    description:
      'How time moved: an old tick t of a piece (from ≤ t < until) stands at to + (t − from) × scale now; in no piece it is gone, in several it is there several times. The whole way of tracks that went another is said by their ids.',
  });
