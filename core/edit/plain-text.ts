import { z } from 'zod';

/** A name that people give: 1 to 200 characters without control characters, spaces at the ends left out. */
export const plainName = (title: string): z.ZodString =>
  z
    .string()
    .trim()
    .min(1)
    .max(200)
    .regex(/^[^\p{Cc}\p{Cs}]*$/u, 'no control characters')
    .meta({ title });
