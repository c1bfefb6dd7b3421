import { z } from 'zod';
import { recipeSchema } from '#core/operations/recipe/run/recipe.ts';

export const recipeViewSchema = recipeSchema.extend({
  id: z.string(),
  shipped: z.boolean().meta({ description: 'It comes with the product and cannot be changed; save it under a name of your own.' }),
});
export type RecipeView = z.infer<typeof recipeViewSchema>;
export const recipeListSchema = z.object({ recipes: z.array(recipeViewSchema) });
