import { z } from 'zod';
import { recipeSchema } from '#core/operations/recipe/run/recipe.ts';
import { preferencesSchema } from './preferences.ts';
import type { Shown } from '#core/units/shown.ts';

export const recipeViewSchema = recipeSchema.extend({
  id: z.string(),
  shipped: z.boolean().meta({
    description:
      'It comes with the product and cannot be changed; save it under a name of your own.',
  }),
});
export type RecipeView = Shown<z.infer<typeof recipeViewSchema>>;
export const recipeListSchema = z.object({ recipes: z.array(recipeViewSchema) });

/** Of this description of a file of recipes. */
export const recipeFileVersion = 1;
export const recipeFileSchema = z
  .strictObject({
    version: z.literal(recipeFileVersion).meta({ description: 'Of this description.' }),
    recipes: z.array(recipeSchema).max(500),
    preferences: preferencesSchema.optional(),
  })
  .meta({ title: 'File of recipes' });
export type RecipeFile = Shown<z.infer<typeof recipeFileSchema>>;

export const recipeFileAskedSchema = z.strictObject({
  preferences: z
    .enum(['true', 'false'])
    .default('true')
    .meta({ description: 'false for recipes alone' }),
});
export const recipesTakenSchema = z.object({
  recipes: z.array(recipeViewSchema),
  had: z.int().meta({ description: 'How many of the file were here already, word for word.' }),
  preferences: z.boolean().meta({ description: 'Whether preferences came along.' }),
});
