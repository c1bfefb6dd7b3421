import { z } from 'zod';
import { roleNames } from '#core/guessing/roles.ts';
import type { Shown } from '#core/units/shown.ts';

const guessSchema = z.object({
  drums: z.boolean(),
  program: z
    .int()
    .min(1)
    .max(128)
    .nullable()
    .meta({ description: 'General MIDI program; null for drums.' }),
  family: z.string(),
  name: z.string(),
  sure: z.number().min(0).max(1),
  why: z.array(z.string()).meta({ description: 'Reasons, in a musician’s words.' }),
});

export const guessesSchema = z.object({
  revision: z.int(),
  tracks: z
    .array(
      z.object({
        id: z.string(),
        role: z.enum(roleNames).nullable().meta({ description: 'Null where there are no notes.' }),
        guesses: z.array(guessSchema).meta({
          description: 'The three likeliest, best first; none where there are no notes.',
        }),
      }),
    )
    .meta({ description: 'In the song’s order.' }),
});
export type GuessesView = Shown<z.infer<typeof guessesSchema>>;
export type GuessView = GuessesView['tracks'][number]['guesses'][number];
