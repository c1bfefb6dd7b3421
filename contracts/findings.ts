import { z } from 'zod';
import { scopeSchema } from '#core/song/scope.ts';
import type { Shown } from '#core/units/shown.ts';

export const findingSchema = z.object({
  key: z.string(),
  rule: z.string(),
  heading: z.string(),
  title: z.string(),
  why: z.string(),
  tracks: z.array(z.string()),
  bars: z.object({ from: z.int(), to: z.int() }).optional(),
  count: z.int(),
  sure: z.enum(['certain', 'likely', 'possible']),
  settle: z.array(
    z.object({
      title: z.string(),
      operation: z.string(),
      settings: z.record(z.string(), z.unknown()),
      scope: scopeSchema,
    }),
  ),
  leftAlone: z.boolean().meta({ description: 'Somebody decided to leave it as it is.' }),
});
export type FindingView = Shown<z.infer<typeof findingSchema>>;

export const findingListSchema = z.object({ revision: z.int(), findings: z.array(findingSchema) });
export type FindingList = Shown<z.infer<typeof findingListSchema>>;

export const leaveSchema = z.strictObject({
  key: z.string().min(1).max(10_000),
  leftAlone: z.boolean(),
});
