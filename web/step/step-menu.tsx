import { Link } from 'react-router';
import { useOperations } from '../api/queries.ts';
import { useRecipes } from '../api/recipes.ts';
import { groups } from './groups.ts';
import { usePreparedStep } from '../state/step.ts';

/** Operations with controls of their own elsewhere. */
const elsewhere: ReadonlySet<string> = new Set([
  'song.name',
  'recipe.run',
  'tracks.bring-in',
  'tracks.rename',
  'tracks.reorder',
  'tracks.remove',
]);

const entry =
  'rounded px-1 text-left underline decoration-line underline-offset-4 hover:decoration-amber';

/** Everything that can be done by hand, to begin preparing it. */
export function StepMenu({ song, all }: { song: string; all: boolean }) {
  const operations = useOperations().data?.filter((o) => !o.byHand && !elsewhere.has(o.id)) ?? [];
  const recipes = useRecipes().data ?? [];
  const { prepare } = usePreparedStep();
  return (
    <section aria-label="Clean" className="mt-4 border-t border-line pt-3">
      <h3 className="mb-1 font-semibold">{all ? 'Clean all tracks' : 'Clean these'}</h3>
      {Object.entries(groups).map(([group, name]) => {
        const here = operations.filter((o) => o.group === group);
        if (here.length === 0) return null;
        return (
          <div key={group} className="mb-1 grid grid-cols-[74px_minmax(0,1fr)] gap-2">
            <span className="text-[12px] text-faint">{name}</span>
            <span className="flex flex-col items-start">
              {here.map((o) => (
                <button
                  key={o.id}
                  type="button"
                  title={o.summary}
                  className={entry}
                  onClick={() => prepare({ operation: o.id, settings: {} })}
                >
                  {o.title} …
                </button>
              ))}
              {group === 'tracks' && (
                <Link to={`/songs/${song}/in`} className={entry}>
                  Bring in from a file or song …
                </Link>
              )}
            </span>
          </div>
        );
      })}
      <div className="mb-1 grid grid-cols-[74px_minmax(0,1fr)] gap-2">
        <span className="text-[12px] text-faint">Recipes</span>
        <span className="flex flex-col items-start">
          {recipes.map((r) => (
            <button
              key={r.id}
              type="button"
              title={r.about}
              className={entry}
              onClick={() =>
                prepare({ operation: 'recipe.run', settings: { name: r.name, steps: r.steps } })
              }
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
    </section>
  );
}
