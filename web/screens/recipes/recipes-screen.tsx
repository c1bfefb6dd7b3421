import { Plus } from 'lucide-react';
import { useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { urlOf } from '#contracts/addresses.ts';
import type { RecipeView } from '#contracts/recipes.ts';
import { problemOf } from '../../api/client.ts';
import { useOperations } from '../../api/queries.ts';
import { useRecipes, useTakeRecipeFile } from '../../api/recipes.ts';
import { Button, buttonLook } from '../../components/button.tsx';
import { PageHead } from '../../components/page-head.tsx';
import { ProblemNote } from '../../components/problem-note.tsx';
import { count } from '../../components/text.ts';
import { useDrafts } from './drafts.ts';
import { RecipeEditor } from './recipe-editor.tsx';

const blank: RecipeView = { id: '', name: 'New recipe', about: '', steps: [], shipped: false };

/** Recipes: one's own and those that come along; each can be looked at, changed and run on songs. */
export function RecipesScreen() {
  const recipes = useRecipes();
  const operations = useOperations();
  const [params, setParams] = useSearchParams();
  const [fresh, setFresh] = useState(false);
  const begun = useDrafts(({ drafts }) => drafts.has(blank.id));
  const list = recipes.data ?? [];
  const open = fresh ? blank : (list.find((r) => r.id === params.get('open')) ?? list[0]);
  const choose = (id: string): void => {
    setFresh(false);
    setParams({ open: id }, { replace: true });
  };
  return (
    <div className="flex h-full flex-col">
      <PageHead title="Recipes" />
      <div className="beside grid min-h-0 flex-1 grid-cols-[230px_minmax(0,1fr)]">
        <nav aria-label="Recipes" className="min-h-0 overflow-auto border-r border-line p-3">
          <Button className="mb-3 w-full" onClick={() => setFresh(true)}>
            <Plus size={14} aria-hidden /> New recipe{begun && notSaved}
          </Button>
          <RecipeFiles />
          {recipes.error && <ProblemNote problem={problemOf(recipes.error)} harm />}
          <Group
            title="Your own"
            recipes={list.filter((r) => !r.shipped)}
            open={open?.id}
            choose={choose}
            none="None yet. Take steps of a song’s history, change one that comes along, or begin a new one."
          />
          <Group
            title="That come along"
            recipes={list.filter((r) => r.shipped)}
            open={open?.id}
            choose={choose}
          />
        </nav>
        <main aria-label="Recipe" className="min-h-0">
          {open && operations.data && (
            <RecipeEditor
              key={open.id || 'new'}
              recipe={open}
              operations={operations.data}
              saved={choose}
            />
          )}
        </main>
      </div>
    </div>
  );
}

/** One's own recipes as a file, with keys and preferences; and what such a file holds. */
function RecipeFiles() {
  const take = useTakeRecipeFile();
  const file = useRef<HTMLInputElement>(null);
  return (
    <>
      <div className="mb-3 grid grid-cols-2 gap-1.5">
        <a className={buttonLook()} href={urlOf('getRecipeFile', {})} download>
          Save as a file
        </a>
        <Button
          title="Recipes, changed keys and preferences, as they were saved"
          onClick={() => file.current?.click()}
        >
          From a file …
        </Button>
      </div>
      <input
        ref={file}
        type="file"
        hidden
        accept=".json,application/json"
        aria-label="File of recipes"
        data-testid="recipes-file"
        onChange={(e) => {
          const [chosen] = e.target.files ?? [];
          e.target.value = '';
          if (chosen) take.mutate(chosen);
        }}
      />
      {take.error && (
        <div className="mb-3">
          <ProblemNote problem={problemOf(take.error)} harm />
        </div>
      )}
    </>
  );
}

const notSaved = <span className="ml-1.5 text-ochre">not saved</span>;

function Group({
  title,
  recipes,
  open,
  choose,
  none,
}: {
  title: string;
  recipes: readonly RecipeView[];
  open: string | undefined;
  choose: (id: string) => void;
  none?: string;
}) {
  const drafts = useDrafts((s) => s.drafts);
  return (
    <section className="mb-4">
      <h2 className="seam mb-1 pb-1 text-[12px] text-faint">{title}</h2>
      {recipes.length === 0 && none && <p className="text-[12.5px] text-faint">{none}</p>}
      <ul>
        {recipes.map((r) => (
          <li key={r.id}>
            <button
              type="button"
              aria-current={r.id === open}
              className="w-full rounded px-2 py-1 text-left hover:bg-sheet aria-[current=true]:bg-amber-soft"
              onClick={() => choose(r.id)}
            >
              <span className="block font-medium break-words">{r.name}</span>
              <span className="text-[12px] text-faint">
                {count(r.steps.length, 'step')}
                {drafts.has(r.id) && notSaved}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
