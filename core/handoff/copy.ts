import { runStep } from '../operations/run.ts';
import { ok, type Result } from '../problems/problems.ts';
import type { Song } from '../song/song.ts';
import type { Wanted } from './settings.ts';

/** The copy of a song that leaves. */
export interface Copy {
  readonly song: Song;
  /** Ids of the song's tracks that it lacks. */
  readonly gone: ReadonlySet<string>;
  readonly notes: readonly string[];
}

/** A copy with a recipe run on it, which the slip tells; the song itself where there is none. */
export function copyFor(song: Song, recipe: Wanted['recipe']): Result<Copy> {
  if (recipe === null) return ok({ song, gone: new Set(), notes: [] });
  const made = runStep(song, {
    operation: 'recipe.run',
    settings: { name: recipe.name, steps: recipe.steps },
    scope: { tracks: 'all' },
  });
  if (!made.ok)
    return {
      ok: false,
      problem: {
        ...made.problem,
        where: { ...made.problem.where, field: inRecipe(made.problem.where.field) },
      },
    };
  const { song: copy, report, described } = made.value;
  const left = new Set(copy.tracks.map((t) => t.id));
  const done = report.changes.length > 0;
  return ok({
    song: copy,
    gone: new Set(song.tracks.map((t) => t.id).filter((id) => !left.has(id))),
    notes: [
      done
        ? `On the copy that leaves: ${described}. The song is as it was.`
        : `“${recipe.name}” had nothing to do.`,
      ...(report.told ?? []),
    ],
  });
}

/** Where in the recipe it is; of its steps the field says which. */
const inRecipe = (field = ''): string => field.replace(/^settings(\.|$)/, 'recipe$1');
