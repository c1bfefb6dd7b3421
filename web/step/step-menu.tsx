import { Link } from 'react-router';
import { useOperations } from '../api/queries.ts';
import { useRecipes } from '../api/recipes.ts';
import { groups } from './groups.ts';
import { OperationLinks, linkLook } from './operation-links.tsx';
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

/** Everything that can be done by hand, to begin preparing it. */
export function StepMenu({ song, all }: { song: string; all: boolean }) {
  const operations = useOperations().data?.filter((o) => !o.byHand && !elsewhere.has(o.id)) ?? [];
  const recipes = useRecipes().data ?? [];
  const { prepare } = usePreparedStep();
  return (
    <section aria-label="Clean" className="mt-4 border-t border-line pt-3">
      <h3 className="mb-1 font-semibold">{all ? 'Clean all tracks' : 'Clean these'}</h3>
      {Object.entries(groups).map(([group, name]) => (
        <OperationLinks
          key={group}
          about={name}
          operations={operations.filter((o) => o.group === group)}
          begin={(o) => prepare({ operation: o.id, settings: {} })}
        >
          {group === 'tracks' && (
            <Link to={`/songs/${song}/in`} className={linkLook}>
              Bring in from a file or song …
            </Link>
          )}
        </OperationLinks>
      ))}
      <div className="mb-1 grid grid-cols-[74px_minmax(0,1fr)] gap-2">
        <span className="text-[12px] text-faint">Recipes</span>
        <span className="flex flex-col items-start">
          {recipes.map((r) => (
            <button
              key={r.id}
              type="button"
              title={r.about}
              className={linkLook}
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
