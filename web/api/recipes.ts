import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Recipe } from '#core/operations/recipe/run/recipe.ts';
import type { NamedSource } from '#core/operations/sources.ts';
import type { RecipeFile, RecipeView } from '#contracts/recipes.ts';
import type { StepResultView } from '#contracts/steps.ts';
import type { SongRow } from '#contracts/songs.ts';
import { count } from '../components/text.ts';
import { takeKept } from '../state/preferences.ts';
import { call, problemOf } from './client.ts';
import { jsonOf } from './json-of.ts';
import { showProblem } from './queries.ts';
import { say } from '../messages/messages.ts';

const key = ['recipes'];

export const useRecipes = () =>
  useQuery({ queryKey: key, queryFn: async () => (await call('listRecipes')).recipes });

/** Takes the recipes of a file, with the keys and preferences that came along. */
export function useTakeRecipeFile() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (file: File) => {
      const taken = await call('takeRecipeFile', { body: (await jsonOf(file)) as RecipeFile });
      if (taken.preferences) takeKept(await call('getPreferences'));
      return taken;
    },
    onSuccess: async ({ recipes, had, preferences }) => {
      await client.invalidateQueries({ queryKey: key });
      say(`Took ${count(recipes.length, 'recipe')}`, {
        description: [
          had > 0 ? `${had} were here already` : '',
          preferences ? 'the keys and preferences are those of the file' : '',
        ]
          .filter(Boolean)
          .join('; '),
      });
    },
  });
}

/** Saves a recipe under its id, or as a new one. */
export function useSaveRecipe() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, recipe }: { id?: string | undefined; recipe: Recipe }) =>
      id
        ? call('changeRecipe', { params: { id }, body: recipe })
        : call('addRecipe', { body: recipe }),
    onSuccess: async (saved) => {
      await client.invalidateQueries({ queryKey: key });
      say(`Saved “${saved.name}”`);
    },
    onError: showProblem,
  });
}

export function useRemoveRecipe() {
  const client = useQueryClient();
  const again = (): Promise<void> => client.invalidateQueries({ queryKey: key });
  return useMutation({
    mutationFn: (recipe: RecipeView) => call('removeRecipe', { params: { id: recipe.id } }),
    onSuccess: async (_, recipe) => {
      await again();
      say(`Removed “${recipe.name}”`, {
        way: {
          label: 'Bring back',
          onClick: () =>
            void call('restoreRecipe', { params: { id: recipe.id } }).then(again, showProblem),
        },
      });
    },
    onError: showProblem,
  });
}

/** What a recipe did, or would do, to one song. */
export interface Ran {
  readonly song: SongRow;
  readonly preview: boolean;
  readonly result?: StepResultView;
  readonly problem?: ReturnType<typeof problemOf>;
  /** It was done, and undone again. */
  readonly undone?: boolean;
}

interface RunAsked {
  readonly recipe: Recipe;
  /** What fills its blanks. */
  readonly sources: Readonly<Record<string, NamedSource>>;
  readonly songs: readonly SongRow[];
  readonly preview: boolean;
  /** Hears of each song as soon as it is through. */
  readonly tell: (ran: Ran) => void;
}

/** Runs a recipe on songs, one after the other; what is refused for one does not keep it from the others. */
export function useRunRecipe() {
  const again = useSongsAgain();
  return useMutation({
    mutationFn: async ({ recipe, sources, songs, preview, tell }: RunAsked) => {
      const settings = { name: recipe.name, steps: recipe.steps, sources };
      for (const song of songs) {
        const body = { operation: 'recipe.run', settings, revision: song.revision, preview };
        tell(
          await call('takeStep', { params: { id: song.id }, body }).then(
            (result) => ({ song, preview, result }),
            (error: unknown) => ({ song, preview, problem: problemOf(error) }),
          ),
        );
      }
    },
    onSettled: (_, __, { preview }) => (preview ? undefined : again()),
  });
}

/** Undoes what a run did to songs; where the song has moved on since, it says so and leaves it. */
export function useUndoRun() {
  const again = useSongsAgain();
  return useMutation({
    mutationFn: async ({ runs, tell }: { runs: readonly Ran[]; tell: (ran: Ran) => void }) => {
      for (const ran of runs) {
        const body = { revision: ran.result!.revision };
        tell(
          await call('undo', { params: { id: ran.song.id }, body }).then(
            () => ({ ...ran, undone: true }),
            (error: unknown) => ({ ...ran, problem: problemOf(error) }),
          ),
        );
      }
    },
    onSettled: again,
  });
}

function useSongsAgain() {
  const client = useQueryClient();
  return async (): Promise<void> => {
    await client.invalidateQueries({ queryKey: ['songs'] });
    await client.invalidateQueries({ queryKey: ['song'] });
  };
}
