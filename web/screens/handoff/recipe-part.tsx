import { useOperations } from '../../api/queries.ts';
import { useRecipes } from '../../api/recipes.ts';
import { Choice } from '../../fields/choice.tsx';
import type { RecipeView } from '#contracts/recipes.ts';
import { count } from '../../components/text.ts';
import { alike, type Setting } from './handing.ts';
import { Part } from './part.tsx';

type Recipe = NonNullable<Setting['handing']['recipe']>;

/** The recipe that is run on the copy that leaves. */
export function RecipePart({ handing, base, change }: Setting) {
  const recipes = useRecipes().data ?? [];
  const operations = useOperations().data ?? [];
  const { recipe } = handing;
  const now = recipe && recipes.find((r) => alike(stepsOf(r), recipe.steps));
  const choose = (id: string): void => {
    const found = recipes.find((r) => r.id === id);
    change({ recipe: found ? ({ name: found.name, steps: stepsOf(found) } as Recipe) : null });
  };
  return (
    <Part
      name="Recipe"
      says={recipe ? `${recipe.name}: ${count(recipe.steps.length, 'step')} on the copy` : 'none'}
      changed={!alike(recipe, base.recipe)}
    >
      <Choice
        label="Run on the copy that leaves"
        value={recipe ? (now?.id ?? 'own') : 'none'}
        options={[
          ['none', 'None'],
          ...(recipe && !now ? [['own', recipe.name] as const] : []),
          ...recipes.map((r) => [r.id, r.name] as const),
        ]}
        set={choose}
      />
      {recipe && (
        <ol className="list-decimal pl-5 text-[12.5px] text-faint">
          {recipe.steps.map((step, n) => (
            <li key={n}>
              {operations.find((o) => o.id === step.operation)?.title ?? step.operation}
            </li>
          ))}
        </ol>
      )}
      <p className="text-[12.5px] text-faint">The song stays as it is; the slip names the steps.</p>
    </Part>
  );
}

const stepsOf = ({ steps }: RecipeView): Recipe['steps'] =>
  steps.map(({ operation, settings, who }) => ({ operation, settings, who })) as Recipe['steps'];
