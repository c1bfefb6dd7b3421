import { z } from 'zod';

const called = z
  .string()
  .max(200)
  .optional()
  .meta({ title: 'Called', description: 'What people know it by; nothing is found by it.' });

/**
 * What a step takes from outside its song, by a name that always means the same: a file as it was received,
 * by the SHA-256 of its bytes, or a revision of a song. In a recipe it may be a blank, which is filled when
 * the recipe is run.
 */
export const sourceSchema = z
  .union([
    z.strictObject({
      original: z
        .string()
        .regex(/^[0-9a-f]{64}$/)
        .meta({ title: 'SHA-256 of the file' }),
      part: z.int().min(1).max(65_535).default(1).meta({
        title: 'Which of the songs in it',
        description: 'A file may hold several patterns, or several files.',
      }),
      called,
    }),
    z.strictObject({ song: z.uuid(), revision: z.int().min(0), called }),
    z.strictObject({
      blank: z
        .string()
        .trim()
        .min(1)
        .max(200)
        .meta({ title: 'What is asked for when the recipe is run' }),
    }),
  ])
  .meta({ title: 'From', offers: 'source' });
