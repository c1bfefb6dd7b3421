import { recipeSchema } from '#core/operations/recipe/run/recipe.ts';
import { preferencesSchema } from './preferences.ts';
import {
  recipeFileAskedSchema,
  recipeFileSchema,
  recipeListSchema,
  recipesTakenSchema,
  recipeViewSchema,
} from './recipes.ts';
import type { Route } from './route.ts';

/** The requests about recipes, and about what the reader prefers, which goes along with them. */
export const recipeRoutes = {
  listRecipes: {
    tag: 'recipes',
    summary: 'Recipes of one’s own, then those that are shipped',
    status: 200,
    answer: recipeListSchema,
    errors: [],
  },
  addRecipe: {
    tag: 'recipes',
    summary: 'Save a recipe; it is run with the operation recipe.run',
    body: recipeSchema,
    status: 201,
    answer: recipeViewSchema,
    errors: [],
  },
  changeRecipe: {
    tag: 'recipes',
    summary: 'Change a recipe',
    body: recipeSchema,
    status: 200,
    answer: recipeViewSchema,
    errors: [404, 422],
  },
  removeRecipe: {
    tag: 'recipes',
    summary: 'Remove a recipe; it can be restored',
    status: 204,
    errors: [404, 422],
  },
  restoreRecipe: {
    tag: 'recipes',
    summary: 'Bring a removed recipe back',
    status: 200,
    answer: recipeViewSchema,
    errors: [404, 422],
  },
  getRecipeFile: {
    tag: 'recipes',
    summary: 'Recipes of one’s own, changed keys and preferences as a file',
    query: recipeFileAskedSchema,
    status: 200,
    answer: recipeFileSchema,
    errors: [],
  },
  takeRecipeFile: {
    tag: 'recipes',
    summary:
      'Take all recipes of a file and its preferences, or none; recipes that are here already are passed over',
    body: recipeFileSchema,
    status: 201,
    answer: recipesTakenSchema,
    errors: [409],
  },
  getPreferences: {
    tag: 'program',
    summary: 'What the reader prefers: theme, names of octaves, keys',
    status: 200,
    answer: preferencesSchema,
    errors: [],
  },
  keepPreferences: {
    tag: 'program',
    summary: 'Keep what the reader prefers, in place of what was kept',
    body: preferencesSchema,
    status: 200,
    answer: preferencesSchema,
    errors: [409],
  },
} as const satisfies Readonly<Record<string, Route>>;
