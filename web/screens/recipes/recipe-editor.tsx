import { useRef, type RefObject } from 'react';
import type { Recipe, RecipeStep } from '#core/operations/recipe/run/recipe.ts';
import type { RecipeView } from '#contracts/recipes.ts';
import type { OperationView } from '#contracts/steps.ts';
import { useRemoveRecipe, useSaveRecipe } from '../../api/recipes.ts';
import { Button } from '../../components/button.tsx';
import { Choice } from '../../fields/choice.tsx';
import { fitsRecipes } from '../../step/fits-recipes.ts';
import { groups } from '../../step/groups.ts';
import { sameRecipe, useDrafts } from './drafts.ts';
import { RecipeStepCard } from './recipe-step-card.tsx';
import { RunOnSongs } from './run-on-songs.tsx';

/** A recipe whole: its name, what it is for, its steps in order, and beside it the songs to run it on. */
export function RecipeEditor({
  recipe,
  operations,
  saved,
}: {
  recipe: RecipeView;
  operations: readonly OperationView[];
  saved: (id: string) => void;
}) {
  const { draft, edit, drop } = useDraft(recipe);
  const { name, about, steps } = draft ?? recipe;
  const setSteps = (to: readonly RecipeStep[]): void => edit({ steps: [...to] });
  const title = useRef<HTMLInputElement>(null);
  const save = useSaveRecipe();
  const edited = { name: name.trim(), about, steps: [...steps] };
  const whole = edited.name !== '' && steps.length > 0;
  const keepIt = (asNew: boolean): void =>
    save.mutate(
      { id: asNew ? undefined : recipe.id, recipe: edited },
      {
        onSuccess: ({ id }) => {
          drop();
          saved(id);
        },
      },
    );
  return (
    <div className="beside grid h-full min-h-0 grid-cols-[minmax(0,1fr)_minmax(340px,40%)]">
      <section aria-label="The recipe" className="min-h-0 overflow-auto px-6 py-5">
        <Titles title={title} name={name} about={about} edit={edit} />
        <Keeping
          recipe={recipe}
          changed={draft !== undefined}
          ready={whole && !save.isPending}
          keep={keepIt}
          back={() => {
            drop();
            title.current?.focus();
          }}
        />
        <StepCards steps={steps} set={setSteps} operations={operations} />
        <AddStep
          operations={operations}
          add={(operation) => setSteps([...steps, { operation, settings: {}, who: 'all' }])}
        />
      </section>
      <RunOnSongs recipe={edited} whole={whole} unsaved={draft !== undefined} />
    </div>
  );
}

/** What was changed in a recipe and is not saved; what says the same as what is saved is no change. */
function useDraft(recipe: RecipeView) {
  const { keep, drop } = useDrafts.getState();
  const draft = useDrafts(({ drafts }) => drafts.get(recipe.id));
  const { name, about, steps } = draft ?? recipe;
  return {
    draft,
    edit: (to: Partial<Recipe>): void => {
      const edited = { name, about, steps, ...to };
      if (sameRecipe(edited, recipe)) drop(recipe.id);
      else keep(recipe.id, edited);
    },
    drop: () => drop(recipe.id),
  };
}

interface TitlesProps {
  readonly title: RefObject<HTMLInputElement | null>;
  readonly name: string;
  readonly about: string;
  readonly edit: (to: Partial<Recipe>) => void;
}

/** The name and what it is for, typed over where they stand. */
const Titles = ({ title, name, about, edit }: TitlesProps) => (
  <>
    <input
      ref={title}
      aria-label="Name"
      className="w-full rounded border border-transparent bg-transparent text-[19px] font-semibold hover:border-line focus:border-amber"
      value={name}
      maxLength={200}
      onChange={(e) => edit({ name: e.target.value })}
    />
    <textarea
      aria-label="What it is for"
      className="mt-1 w-full resize-none rounded border border-transparent bg-transparent text-faint hover:border-line focus:border-amber"
      rows={2}
      maxLength={500}
      placeholder="What it is for"
      value={about}
      onChange={(e) => edit({ about: e.target.value })}
    />
  </>
);

interface StepCardsProps {
  readonly steps: readonly RecipeStep[];
  readonly set: (steps: readonly RecipeStep[]) => void;
  readonly operations: readonly OperationView[];
}

function StepCards({ steps, set, operations }: StepCardsProps) {
  const move = (n: number, by: -1 | 1): void => {
    const next = [...steps];
    [next[n], next[n + by]] = [next[n + by]!, next[n]!];
    set(next);
  };
  return (
    <ol aria-label="Steps" className="mt-3 space-y-2">
      {steps.map((step, n) => (
        <RecipeStepCard
          key={`${n} ${step.operation}`}
          n={n}
          count={steps.length}
          step={step}
          operation={operations.find((o) => o.id === step.operation)}
          set={(next) => set(steps.map((s, i) => (i === n ? next : s)))}
          move={(by) => move(n, by)}
          remove={() => set(steps.filter((_, i) => i !== n))}
        />
      ))}
    </ol>
  );
}

interface KeepingProps {
  readonly recipe: RecipeView;
  readonly changed: boolean;
  /** It is whole and nothing is on its way. */
  readonly ready: boolean;
  readonly keep: (asNew: boolean) => void;
  readonly back: () => void;
}

/**
 * What is saved and what is not are told apart. A recipe of one's own is saved or removed; one that is
 * shipped, or new, is saved as one's own.
 */
function Keeping({ recipe, changed, ready, keep, back }: KeepingProps) {
  const remove = useRemoveRecipe();
  const asNew = recipe.shipped || recipe.id === '';
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2">
      <Button
        kind={changed ? 'next' : 'plain'}
        disabled={!ready || (!asNew && !changed)}
        onClick={() => keep(asNew)}
      >
        {recipe.shipped ? 'Save as your own' : 'Save'}
      </Button>
      {changed && recipe.id !== '' && (
        <Button title="What was changed since is dropped" onClick={back}>
          Back to what is saved
        </Button>
      )}
      {!asNew && (
        <Button kind="harm" disabled={remove.isPending} onClick={() => remove.mutate(recipe)}>
          Remove
        </Button>
      )}
      <p role="status" className="text-[12.5px] text-faint">
        {changed && 'Changed, not saved. Songs offer it as it was saved.'}
      </p>
    </div>
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
