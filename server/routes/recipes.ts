import { isDeepStrictEqual } from 'node:util';
import { recipeFault, stepNow } from '#core/operations/index.ts';
import type { Recipe } from '#core/operations/recipe/run/recipe.ts';
import { shippedRecipes } from '#core/operations/recipe/run/shipped.ts';
import { recipeFileVersion } from '#contracts/recipes.ts';
import type { RecipeView } from '#contracts/recipes.ts';
import type { Handlers } from '../answering.ts';
import type { RecipeRecord } from '../db/models.ts';
import { Refusal } from '../refusal.ts';
import type { Services } from '../services.ts';

const view = ({ id, name, about, steps }: RecipeRecord): RecipeView => ({
  id,
  name,
  about,
  steps: steps.map(stepNow),
  shipped: false,
});

/** A recipe as it is kept: each step with the version that its settings are for. */
const kept = (recipe: Recipe): Recipe => ({ ...recipe, steps: recipe.steps.map(stepNow) });

/** A recipe that was sent, as it is kept; refused where a step is none. */
function acceptRecipe(recipe: Recipe, field = 'body'): Recipe {
  const fault = recipeFault(recipe, field);
  if (fault) throw new Refusal(fault);
  return kept(recipe);
}

/** A recipe as a file has it. */
const asFiled = ({ name, about, steps }: RecipeRecord): Recipe => kept({ name, about, steps });

/** Recipes: those that come with the product, and one's own. They are run as steps of a song. */
export function recipeHandlers({
  recipes,
  preferences,
}: Services): Pick<
  Handlers,
  | 'listRecipes'
  | 'addRecipe'
  | 'changeRecipe'
  | 'removeRecipe'
  | 'restoreRecipe'
  | 'getRecipeFile'
  | 'takeRecipeFile'
  | 'getPreferences'
  | 'keepPreferences'
> {
  return {
    async getRecipeFile({ query, response }) {
      response.attachment('recipes.json');
      const own = (await recipes.list()).map(asFiled);
      const kept = query.preferences === 'true' ? { preferences: await preferences.read() } : {};
      return { version: recipeFileVersion, recipes: own, ...kept };
    },

    async takeRecipeFile({ body }) {
      const here = (await recipes.list()).map(asFiled);
      const fresh = body.recipes
        .map((recipe, n) => acceptRecipe(recipe, `body.recipes.${n + 1}`))
        .filter((recipe) => !here.some((had) => isDeepStrictEqual(had, recipe)));
      const added = await preferences.together(async (transaction) => {
        if (body.preferences) await preferences.keep(body.preferences, transaction);
        return recipes.addAll(fresh, transaction);
      });
      return {
        recipes: added.map(view),
        had: body.recipes.length - fresh.length,
        preferences: body.preferences !== undefined,
      };
    },

    getPreferences: () => preferences.read(),
    keepPreferences: ({ body }) => preferences.keep(body),

    async listRecipes() {
      const own = await recipes.list();
      return {
        recipes: [...own.map(view), ...shippedRecipes.map((r) => ({ ...r, shipped: true }))],
      };
    },

    addRecipe: async ({ body }) => view(await recipes.add(acceptRecipe(body))),

    changeRecipe: async ({ params, body }) =>
      view(await recipes.change(params.id, acceptRecipe(body))),

    async removeRecipe({ params }) {
      await recipes.setRemoved(params.id, true);
    },

    restoreRecipe: async ({ params }) => view(await recipes.setRemoved(params.id, false)),
  };
}
