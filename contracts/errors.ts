import { z } from 'zod';
import type { Shown } from '#core/units/shown.ts';

/** The one shape of every error (4xx for what the sender can mend, 5xx for a defect). */
export const errorSchema = z.object({
  code: z.string(),
  message: z.string(),
  where: z
    .object({
      file: z.string(),
      chunk: z.string(),
      track: z.number(),
      byte: z.number(),
      tick: z.number(),
      field: z.string(),
      id: z.string(),
    })
    .partial(),
  expected: z.string(),
  found: z.string(),
  remedy: z.string(),
  head: z
    .int()
    .optional()
    .meta({ description: 'With revision-stale: the revision the song is at.' }),
});
export type ApiError = Shown<z.infer<typeof errorSchema>>;
