import { z } from 'zod';
import { definitionFileSchema, definitionSchema } from '#core/instruments/definition.ts';
import type { Shown } from '#core/units/shown.ts';

export const instrumentViewSchema = z.object({
  id: z.string(),
  along: z.boolean().meta({
    description:
      'It comes with the product and cannot be changed; save it under a name of your own.',
  }),
  definition: definitionSchema,
});
export type InstrumentView = Shown<z.infer<typeof instrumentViewSchema>>;

export const instrumentListSchema = z.object({ instruments: z.array(instrumentViewSchema) });

/** One definition, or several as a file of them has them. */
export const newInstrumentsSchema = z.union([definitionFileSchema, definitionSchema]);

export const instrumentsReadSchema = z.object({
  instruments: z.array(
    z.object({
      definition: definitionSchema.meta({
        description: 'With what such a file cannot hold taken from the one it is laid over.',
      }),
      over: z
        .string()
        .nullable()
        .meta({ description: 'The instrument of the same name and device that is there already.' }),
    }),
  ),
  told: z.array(z.string()).meta({ description: 'What of the file has no place here.' }),
});
export type InstrumentsRead = Shown<z.infer<typeof instrumentsReadSchema>>;

export const instrumentFileQuerySchema = z.object({
  ids: z
    .string()
    .max(80_000)
    .optional()
    .meta({ description: 'Ids with commas between them; all of one’s own where it is left out.' }),
  format: z.enum(['json', 'midnam']).default('json'),
});
