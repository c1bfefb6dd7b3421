import { useMemo } from 'react';
import { useLocation, useNavigate } from 'react-router';
import type { SongView } from '#contracts/songs.ts';
import { useOperations } from '../../api/queries.ts';
import { useRecipes } from '../../api/recipes.ts';
import { useOffer } from '../../state/commands.ts';
import { usePreparedStep, type Prepared } from '../../state/step.ts';
import { ownControls } from '../../step/own-controls.ts';

/** Views that show a step on tracks that is being prepared; from any other the sheet is gone to. */
const withMargin = /^(\/(harmony|arrange))?$/;

/** Every step and recipe by its name in the palette, for the selection: it is prepared, and seen before it is taken. */
export function useStepCommands(song: SongView): void {
  const operations = useOperations().data;
  const recipes = useRecipes().data;
  const { prepare } = usePreparedStep();
  const navigate = useNavigate();
  const sheet = `/songs/${song.id}`;
  const { pathname } = useLocation();
  const stays = withMargin.test(pathname.slice(sheet.length));
  const commands = useMemo(() => {
    const begin = (step: Prepared): void => {
      if (!stays) void navigate(sheet);
      // The view that is gone to lets go of what was prepared before it.
      setTimeout(() => prepare({ ...step, takesFocus: true }));
    };
    return [
      ...(operations ?? [])
        .filter((o) => !o.byHand && !ownControls.has(o.id))
        .map((o) => ({
          title: `${o.title} …`,
          run: () => begin({ operation: o.id, settings: {} }),
        })),
      ...(recipes ?? []).map((r) => ({
        title: `Recipe: ${r.name} …`,
        run: () => begin({ operation: 'recipe.run', settings: { name: r.name, steps: r.steps } }),
      })),
    ];
  }, [operations, recipes, prepare, navigate, sheet, stays]);
  useOffer('steps', commands);
}
