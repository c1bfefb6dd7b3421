import { fitsRecipes } from '../../step/fits-recipes.ts';
import { useEffect, useState } from 'react';
import type { RecipeStep } from '#core/operations/recipe/run/recipe.ts';
import type { RecipeView } from '#contracts/recipes.ts';
import type { OperationView } from '#contracts/steps.ts';
import { useRemoveRecipe, useSaveRecipe } from '../../api/recipes.ts';
import { Button } from '../../components/button.tsx';
import { RecipeStepCard } from './recipe-step-card.tsx';
import { RunOnSongs } from './run-on-songs.tsx';
import { Choice } from '../../fields/choice.tsx';
import { groups } from '../../step/groups.ts';

/** What was begun and not saved, by recipe: it is there again when one comes back to it. */
const drafts = new Map<string, { name: string; about: string; steps: readonly RecipeStep[] }>();

/** What steps say, whatever the order of their fields; versions are the server's. */
const said = (steps: readonly RecipeStep[]): string =>
  JSON.stringify(
    steps.map(({ operation, settings, who }) => [operation, settings, who]),
    (_, value: unknown) =>
      typeof value === 'object' && value !== null && !Array.isArray(value)
        ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
        : value,
  );

/** A recipe whole: its name, what it is for, its steps in order, and the songs to run it on. */
export function RecipeEditor({
  recipe,
  operations,
  saved,
}: {
  recipe: RecipeView;
  operations: readonly OperationView[];
  saved: (id: string) => void;
}) {
  const begun = drafts.get(recipe.id) ?? recipe;
  const [name, setName] = useState(begun.name);
  const [about, setAbout] = useState(begun.about);
  const [steps, setSteps] = useState<readonly RecipeStep[]>(begun.steps);
  const save = useSaveRecipe();
  const edited = { name: name.trim(), about, steps: [...steps] };
  const changed =
    edited.name !== recipe.name || about !== recipe.about || said(steps) !== said(recipe.steps);
  useEffect(
    () => void (changed ? drafts.set(recipe.id, { name, about, steps }) : drafts.delete(recipe.id)),
    [changed, recipe.id, name, about, steps],
  );
  const whole = edited.name !== '' && steps.length > 0;
  const move = (n: number, by: -1 | 1): void => {
    const next = [...steps];
    [next[n], next[n + by]] = [next[n + by]!, next[n]!];
    setSteps(next);
  };
  const keep = (asNew: boolean): void =>
    save.mutate(
      { id: asNew ? undefined : recipe.id, recipe: edited },
      {
        onSuccess: ({ id }) => {
          drafts.delete(recipe.id);
          saved(id);
        },
      },
    );
  return (
    <div className="mx-auto max-w-[860px]">
      <div className="flex items-start gap-3">
        <div className="min-w-0 flex-1">
          <input
            aria-label="Name"
            className="w-full rounded border border-transparent bg-transparent text-[19px] font-semibold hover:border-line focus:border-amber"
            value={name}
            maxLength={200}
            onChange={(e) => setName(e.target.value)}
          />
          <textarea
            aria-label="What it is for"
            className="mt-1 w-full resize-none rounded border border-transparent bg-transparent text-faint hover:border-line focus:border-amber"
            rows={2}
            maxLength={500}
            placeholder="What it is for"
            value={about}
            onChange={(e) => setAbout(e.target.value)}
          />
        </div>
        <Keeping recipe={recipe} changed={changed} ready={whole && !save.isPending} keep={keep} />
      </div>
      <ol aria-label="Steps" className="mt-3 space-y-2">
        {steps.map((step, n) => (
          <RecipeStepCard
            key={`${n} ${step.operation}`}
            n={n}
            count={steps.length}
            step={step}
            operation={operations.find((o) => o.id === step.operation)}
            set={(next) => setSteps(steps.map((s, i) => (i === n ? next : s)))}
            move={(by) => move(n, by)}
            remove={() => setSteps(steps.filter((_, i) => i !== n))}
          />
        ))}
      </ol>
      <AddStep
        operations={operations}
        add={(operation) => setSteps([...steps, { operation, settings: {}, who: 'all' }])}
      />
      {whole && <RunOnSongs recipe={edited} />}
    </div>
  );
}

interface KeepingProps {
  readonly recipe: RecipeView;
  readonly changed: boolean;
  /** It is whole and nothing is on its way. */
  readonly ready: boolean;
  readonly keep: (asNew: boolean) => void;
}

/** A recipe of one's own is saved or removed; one that is shipped, or new, is saved as one's own. */
function Keeping({ recipe, changed, ready, keep }: KeepingProps) {
  const remove = useRemoveRecipe();
  if (recipe.shipped || recipe.id === '')
    return (
      <Button kind={changed ? 'next' : 'plain'} disabled={!ready} onClick={() => keep(true)}>
        {recipe.shipped ? 'Save as your own' : 'Save'}
      </Button>
    );
  return (
    <>
      <Button kind="harm" disabled={remove.isPending} onClick={() => remove.mutate(recipe)}>
        Remove
      </Button>
      <Button kind="next" disabled={!changed || !ready} onClick={() => keep(false)}>
        Save
      </Button>
    </>
  );
}

/** Any operation that fits any song, by its group. */
function AddStep({
  operations,
  add,
}: {
  operations: readonly OperationView[];
  add: (operation: string) => void;
}) {
  const offered = operations.filter((o) => fitsRecipes(o) && o.id !== 'recipe.run');
  const inGroup = (group: string): (readonly [string, string])[] =>
    offered.filter((o) => o.group === group).map((o) => [o.id, o.title] as const);
  return (
    <div className="mt-2 text-faint">
      <Choice
        label="Add a step"
        placeholder="choose …"
        value={undefined as string | undefined}
        options={[]}
        groups={Object.entries(groups).map(([group, title]) => [title, inGroup(group)] as const)}
        set={add}
      />
    </div>
  );
}
