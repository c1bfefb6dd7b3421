import { create } from 'zustand';
import type { Recipe, RecipeStep } from '#core/operations/recipe/run/recipe.ts';

/** What was begun and not saved, by recipe: it is there again when one comes back to it. */
interface DraftState {
  readonly drafts: ReadonlyMap<string, Recipe>;
  keep(id: string, draft: Recipe): void;
  drop(id: string): void;
}

export const useDrafts = create<DraftState>((set) => ({
  drafts: new Map(),
  keep: (id, draft) => set(({ drafts }) => ({ drafts: new Map(drafts).set(id, draft) })),
  drop: (id) =>
    set(({ drafts }) => ({ drafts: new Map([...drafts].filter(([other]) => other !== id)) })),
}));

/** What steps say, whatever the order of their fields; versions are the server's. */
const said = (steps: readonly RecipeStep[]): string =>
  JSON.stringify(
    steps.map(({ operation, settings, who }) => [operation, settings, who]),
    (_, value: unknown) =>
      typeof value === 'object' && value !== null && !Array.isArray(value)
        ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
        : value,
  );

/** Whether two recipes say the same, in words and in what they do. */
export const sameRecipe = (a: Recipe, b: Recipe): boolean =>
  a.name.trim() === b.name.trim() && a.about === b.about && said(a.steps) === said(b.steps);
