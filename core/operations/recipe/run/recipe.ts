import { z } from 'zod';
import { plainName } from '../../../edit/plain-text.ts';
import type { Shown } from '../../../units/shown.ts';
import { meaningSchema } from './meaning.ts';

/** One step of a recipe: an operation with its settings, and the tracks it is for, said by meaning. */
export const recipeStepSchema = z.strictObject({
  operation: z.string().max(100).meta({ title: 'Operation' }),
  version: z.int().min(1).optional().meta({
    title: 'Version',
    description:
      'Of the operation, for which the settings were made; its newest where it is left out.',
  }),
  settings: z.record(z.string(), z.unknown()).default({}).meta({ title: 'Settings' }),
  who: meaningSchema.default('all'),
});
export type RecipeStep = Shown<z.infer<typeof recipeStepSchema>>;

export const recipeSchema = z.strictObject({
  name: plainName('Name'),
  about: z.string().max(500).default('').meta({ title: 'What it is for' }),
  steps: z.array(recipeStepSchema).min(1).max(50).meta({ title: 'Steps' }),
});
export type Recipe = Shown<z.infer<typeof recipeSchema>>;
