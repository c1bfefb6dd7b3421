import { Router } from 'express';
import { stepNow } from '#core/operations/index.ts';
import { recipeSchema, type Recipe } from '#core/operations/recipe/run/recipe.ts';
import { shippedRecipes } from '#core/operations/recipe/run/shipped.ts';
import type { RecipeView } from '#contracts/recipes.ts';
import { jsonBody } from '../body.ts';
import type { RecipeRecord } from '../db/models.ts';
import type { Services } from '../services.ts';

const view = ({ id, name, about, steps }: RecipeRecord): RecipeView => ({ id, name, about, steps: steps.map(stepNow), shipped: false });

/** A recipe as it is kept: each step with the version that its settings are for. */
const kept = (recipe: Recipe): Recipe => ({ ...recipe, steps: recipe.steps.map(stepNow) });

/** Recipes: those that come with the product, and one's own. They are run as steps of a song. */
export function recipeRoutes({ recipes }: Services): Router {
  const router = Router();

  router.get('/recipes', async (_request, response) => {
    const own = await recipes.list();
    response.json({ recipes: [...own.map(view), ...shippedRecipes.map((r) => ({ ...r, shipped: true }))] });
  });

  router.post('/recipes', async (request, response) => {
    response.status(201).json(view(await recipes.add(kept(jsonBody(request, recipeSchema)))));
  });

  router.put('/recipes/:id', async (request, response) => {
    response.json(view(await recipes.change(request.params.id, kept(jsonBody(request, recipeSchema)))));
  });

  router.delete('/recipes/:id', async (request, response) => {
    await recipes.setRemoved(request.params.id, true);
    response.status(204).end();
  });

  router.post('/recipes/:id/restore', async (request, response) => {
    response.json(view(await recipes.setRemoved(request.params.id, false)));
  });

  return router;
}
