import { z } from 'zod';
import { clipKinds } from '#core/shelf/kind.ts';

/**
 * What stands beside the clips in a zip of the shelf, as `shelf.json`: what of them is not in their files.
 * Everything is optional but the file.
 */
export const shelfFileSchema = z.object({
  version: z.literal(1),
  clips: z
    .array(
      z.object({
        file: z.string().max(2000).meta({ description: 'Path within the archive.' }),
        part: z.int().min(1).default(1),
        name: z.string().min(1).max(200).optional(),
        kind: z.enum(clipKinds).optional(),
        tags: z.array(z.string().min(1).max(60)).max(40).optional(),
        bars: z.int().min(1).optional().meta({ description: 'After which it comes round.' }),
      }),
    )
    .max(100_000),
});
export type ShelfFile = z.infer<typeof shelfFileSchema>;
export const shelfFileName = 'shelf.json';
