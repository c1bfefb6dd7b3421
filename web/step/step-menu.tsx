import { useState } from 'react';
import { Link } from 'react-router';
import type { RecipeView } from '#contracts/recipes.ts';
import { useOperations } from '../api/queries.ts';
import { useRecipes } from '../api/recipes.ts';
import { input } from '../fields/field.ts';
import { groups } from './groups.ts';
import { OperationLinks, linkLook } from './operation-links.tsx';
import { usePreparedStep } from '../state/step.ts';
import { ownControls } from './own-controls.ts';

/** Everything that can be done by hand, to begin preparing it. */
export function StepMenu({ song, all }: { song: string; all: boolean }) {
  const [typed, type] = useState('');
  const { data, isPending } = useOperations();
  const every = data?.filter((o) => !o.byHand && !ownControls.has(o.id)) ?? [];
  const recipes = (useRecipes().data ?? []).filter((r) => answers(typed, r.name, r.about));
  const operations = every.filter((o) => answers(typed, o.title, o.summary, o.id));
  const { prepare } = usePreparedStep();
  const none = operations.length + recipes.length === 0;
  // Its groups come at once, so that none of them moves.
  if (isPending) return null;
  return (
    <section aria-label="Clean" className="mt-4 border-t border-line pt-3">
      <div className="mb-1.5 flex items-baseline gap-2">
        <h3 className="font-semibold">{all ? 'Clean all tracks' : 'Clean these'}</h3>
        <FindStep
          typed={typed}
          type={type}
          take={() => {
            const [first] = operations;
            if (first) prepare({ operation: first.id, settings: {} });
          }}
        />
      </div>
      {none && <p className="text-faint">No step of that name, and none that says it.</p>}
      {Object.entries(groups).map(([group, name]) => (
        <OperationLinks
          key={group}
          about={name}
          operations={operations.filter((o) => o.group === group)}
          begin={(o) => prepare({ operation: o.id, settings: {} })}
        >
          {group === 'tracks' && typed === '' && (
            <Link to={`/songs/${song}/in`} className={linkLook}>
              Bring in from a file or song …
            </Link>
          )}
        </OperationLinks>
      ))}
      {recipes.length > 0 && (
        <RecipeLinks
          recipes={recipes}
          begin={({ name, steps }) =>
            prepare({ operation: 'recipe.run', settings: { name, steps } })
          }
        />
      )}
    </section>
  );
}

/** Whether every word that is typed stands in what is said of a step. */
const answers = (typed: string, ...says: readonly string[]): boolean => {
  const all = says.join(' ').toLowerCase();
  return typed
    .toLowerCase()
    .split(/\s+/)
    .every((word) => all.includes(word));
};

/** Enter takes the first that answers, Escape empties the field. */
const FindStep = ({
  typed,
  type,
  take,
}: {
  typed: string;
  type: (typed: string) => void;
  take: () => void;
}) => (
  <input
    type="search"
    aria-label="Find a step"
    placeholder="find a step"
    className={`${input} ml-auto w-[130px] text-[12.5px]`}
    value={typed}
    onChange={(e) => type(e.target.value)}
    onKeyDown={(e) => {
      if (typed === '') return;
      if (e.key === 'Enter') take();
      if (e.key !== 'Escape') return;
      type('');
      e.stopPropagation();
    }}
  />
);

const RecipeLinks = ({
  recipes,
  begin,
}: {
  recipes: readonly RecipeView[];
  begin: (recipe: RecipeView) => void;
}) => (
  <div className="mb-1 grid grid-cols-[74px_minmax(0,1fr)] gap-2">
    <span className="text-[12px] text-faint">Recipes</span>
    <span className="flex flex-col items-start">
      {recipes.map((r) => (
        <button
          key={r.id}
          type="button"
          title={r.about}
          className={linkLook}
          onClick={() => begin(r)}
        >
          {r.name} …
        </button>
      ))}
      <Link
        to="/recipes"
        className="px-1 text-[12px] text-faint underline decoration-line underline-offset-4"
      >
        All recipes
      </Link>
    </span>
  </div>
);
