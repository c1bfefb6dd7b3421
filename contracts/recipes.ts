import { z } from 'zod';
import { recipeSchema } from '#core/operations/recipe/run/recipe.ts';
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
