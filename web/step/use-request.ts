import { useMemo } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import type { OperationView } from '#contracts/steps.ts';
import type { RecipeStep } from '#core/operations/recipe/run/recipe.ts';
import { blanksOf, type NamedSource } from '#core/operations/sources.ts';
import type { NamedRows } from '#core/song/rows.ts';
import { usePreview } from '../api/preview.ts';
import type { StepAsked } from '../api/queries.ts';
import type { Field } from '../fields/field.ts';
import type { ChosenEvents } from '../state/chosen.ts';
import { useScope, type Bars } from '../state/scope.ts';
import type { Prepared } from '../state/step.ts';
import { useDebounced } from './use-debounced.ts';

/** A step being prepared, and what it is for. */
export interface Asked {
  readonly song: SongView;
  readonly prepared: Prepared;
  readonly operation: OperationView;
  /** Tracks it is for where it names none itself; undefined for all. */
  readonly selected?: readonly TrackView[] | undefined;
  readonly chosen?: ChosenEvents | undefined;
}

export const obeysBars = ({ scope }: OperationView): boolean =>
  scope === 'events' || scope === 'bars';

/** The same on notes or events that were chosen by hand. */
const askedOf = (prepared: Prepared, chosen: ChosenEvents): StepAsked => ({
  operation: prepared.operation,
  settings: { ...prepared.settings },
  scope: { tracks: 'all', rows: chosen.rows() as NamedRows, revision: chosen.revision },
});

/** The bars that a step is for: its own, or those of the scope; of one that cannot do without, the first. */
function barsFor(
  operation: OperationView,
  prepared: Prepared,
  inScope: Bars | undefined,
  all: number,
): Bars | undefined {
  if (!obeysBars(operation)) return undefined;
  const needs = operation.scope === 'bars';
  if (prepared.bars === 'all') return needs ? { from: 1, to: all } : undefined;
  return prepared.bars ?? inScope ?? (needs ? { from: 1, to: 1 } : undefined);
}

/** The step as it would be asked for now. */
function asked(
  prepared: Prepared,
  tracks: readonly TrackView[],
  all: boolean,
  bars: Bars | undefined,
): StepAsked {
  return {
    operation: prepared.operation,
    settings: { ...prepared.settings },
    scope: { tracks: all ? 'all' : tracks.map((t) => t.id), ...(bars ? { bars } : {}) },
  };
}

/** What would be asked for now, what is lacking for it, and what would come of it. */
export function useRequest({ song, prepared, operation, selected, chosen }: Asked) {
  const tracks = useMemo(
    () =>
      prepared.tracks
        ? song.tracks.filter((t) => prepared.tracks!.includes(t.id))
        : selected && selected.length > 0
          ? selected
          : song.tracks,
    [prepared.tracks, selected, song.tracks],
  );
  const inScope = useScope((s) => s.bars);
  const bars = useMemo(
    () => barsFor(operation, prepared, inScope, song.timing.bars),
    [operation, prepared, inScope, song.timing.bars],
  );
  const fields = (operation.settings as { properties?: Record<string, Field> }).properties ?? {};
  const needed = (operation.settings as { required?: string[] }).required ?? [];
  const lacks = lacksSource(prepared.settings, fields, needed);
  const request = useMemo(
    () =>
      chosen
        ? askedOf(prepared, chosen)
        : asked(prepared, tracks, tracks.length === song.tracks.length, bars),
    [prepared, chosen, tracks, song.tracks.length, bars],
  );
  // What was chosen is looked for in the song as it is now: until then nothing can be taken.
  const stale = chosen !== undefined && (chosen.count === 0 || chosen.revision !== song.revision);
  const preview = usePreview(
    song,
    useDebounced(tracks.length === 0 || lacks || stale ? undefined : request, 30),
  );
  return { tracks, bars, fields, request, lacks, stale, preview };
}

/** Whether something that it takes from outside is not chosen yet. */
function lacksSource(
  settings: Prepared['settings'],
  fields: Readonly<Record<string, Field>>,
  needed: readonly string[],
): boolean {
  const given = (settings.sources ?? {}) as Record<string, NamedSource>;
  if (settings.steps) return blanksOf(settings.steps as RecipeStep[]).some((name) => !given[name]);
  return Object.entries(fields).some(
    ([name, field]) => field.offers === 'source' && needed.includes(name) && !settings[name],
  );
}
