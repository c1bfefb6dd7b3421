import { meaningOf } from '#core/operations/recipe/run/meaning.ts';
import { blanked } from '#core/operations/sources.ts';
import type { Recipe, RecipeStep } from '#core/operations/recipe/run/recipe.ts';
import type { SongView } from '#contracts/songs.ts';
import type { StepView } from '#contracts/steps.ts';

/**
 * Steps that were taken on a song, as a recipe for others: scopes are said by meaning, what they took from
 * outside is left blank, a recipe among them goes by its own steps.
 */
export function recipeFrom(
  song: Pick<SongView, 'title' | 'tracks'>,
  steps: readonly StepView[],
): Recipe {
  const taken = steps.flatMap((step): RecipeStep[] => {
    if (step.operation === 'recipe.run') return step.settings.steps as RecipeStep[];
    const nameThen = new Map(
      step.report.changes.flatMap((c) => (c.track ? [[c.track, c.name] as const] : [])),
    );
    const who = meaningOf(song, step.scope.tracks, nameThen);
    if (!who) return [];
    return [{ operation: step.operation, settings: blanked(step.settings), who }];
  });
  return { name: `As on ${song.title}`.slice(0, 200), about: '', steps: taken.slice(0, 50) };
}
