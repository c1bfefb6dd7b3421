import type { KeyboardEvent, ReactNode } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { useOperations, useStep, type StepAsked } from '../api/queries.ts';
import { HearButton } from '../components/hear-button.tsx';
import { preparedStep, useOfferToHear } from '../state/auditioned.ts';
import { Button } from '../components/button.tsx';
import { count } from '../components/text.ts';
import type { ChosenEvents } from '../state/chosen.ts';
import { useScope, type Bars } from '../state/scope.ts';
import { usePreparedStep, type Prepared } from '../state/step.ts';
import type { RecipeStep } from '#core/operations/recipe/run/recipe.ts';
import { blanksOf, type NamedSource } from '#core/operations/sources.ts';
import { BlankFields } from '../fields/source-field.tsx';
import { stepLine } from './step-words.ts';
import { SchemaForm } from '../fields/schema-form.tsx';
import { Outcome } from './outcome.tsx';
import { obeysBars, useRequest, type Asked } from './use-request.ts';
import { useStepFocus } from './use-step-focus.ts';

interface PanelProps {
  readonly song: SongView;
  readonly prepared: Prepared;
  /** Tracks selected; undefined where a view is about the song as a whole. */
  readonly selected: readonly TrackView[] | undefined;
  /** Notes or events that were chosen by hand, which it works on. */
  readonly chosen?: ChosenEvents | undefined;
  readonly children?: ReactNode;
}

/** A step being prepared: its settings, what helps to settle them, what it would do, and the button that does it. */
export function StepPanel({ song, prepared, selected, chosen, children }: PanelProps) {
  const operations = useOperations();
  const operation = operations.data?.find((o) => o.id === prepared.operation);
  if (!operation) return <p className="text-faint">Looking …</p>;
  return (
    <Panel
      song={song}
      prepared={prepared}
      operation={operation}
      selected={selected}
      chosen={operation.takesRows ? chosen : undefined}
      ofSong={operation.scope === 'song' || (selected === undefined && !prepared.tracks)}
    >
      {children}
    </Panel>
  );
}

function Panel({
  children,
  ofSong,
  ...asked
}: Asked & Pick<PanelProps, 'children'> & { ofSong: boolean }) {
  const { song, prepared, operation, chosen } = asked;
  const { prepare } = usePreparedStep();
  const { tracks, bars, fields, request, lacks, stale, preview } = useRequest(asked);
  const step = useStep(song.id, song.revision);
  const close = (): void => prepare(undefined);
  const changes = preview.data?.changed === true && !preview.isError;
  useOfferToHear(preparedStep, changes && !lacks ? [request] : undefined);
  const panel = useStepFocus(prepared);
  if (tracks.length === 0) return <Gone close={close} />;
  const able = !step.isPending && !lacks && !stale && changes;
  const take = (): void => step.mutate(request, { onSuccess: close });
  const set = (settings: Record<string, unknown>): void => prepare({ ...prepared, settings });
  return (
    <section
      ref={panel}
      tabIndex={-1}
      data-step-panel
      aria-label="Step"
      className="mb-4"
      onKeyDown={stepKeys(close, able ? take : undefined)}
    >
      <h2 className="seam mb-2 pb-1 text-[14px] font-semibold">
        {operation.id === 'recipe.run' ? String(prepared.settings.name) : operation.title}
      </h2>
      <p className="mb-2 text-[12.5px] text-faint">{operation.summary}</p>
      <OnWhat song={song} chosen={chosen} tracks={ofSong ? undefined : tracks} />
      {!chosen && obeysBars(operation) && (
        <BarsField
          prepared={prepared}
          chosen={bars}
          bars={song.timing.bars}
          needed={operation.scope === 'bars'}
        />
      )}
      {operation.id === 'recipe.run' ? (
        <RecipeSteps settings={prepared.settings} set={set} />
      ) : (
        <SchemaForm
          key={operation.id}
          fields={fields}
          values={prepared.settings}
          set={set}
          choices={lanesIn(tracks)}
        />
      )}
      {children}
      {lacks ? (
        <p className="mt-3 text-faint">Choose what it is to take from.</p>
      ) : (
        <Outcome {...{ preview, song }} bars={chosen ? undefined : bars} taken={step.isPending} />
      )}
      <Ways take={able ? take : undefined} close={close} heard={changes ? [request] : undefined} />
    </section>
  );
}

/** The steps of a recipe that is about to be run, and what they ask for. */
function RecipeSteps({
  settings,
  set,
}: {
  settings: Readonly<Record<string, unknown>>;
  set: (settings: Record<string, unknown>) => void;
}) {
  const operations = useOperations().data ?? [];
  const steps = settings.steps as RecipeStep[];
  return (
    <>
      <ol className="list-decimal space-y-1 pl-5">
        {steps.map((step, n) => (
          <li key={n}>{stepLine(step, operations)}</li>
        ))}
      </ol>
      <BlankFields
        names={blanksOf(steps)}
        given={(settings.sources ?? {}) as Record<string, NamedSource>}
        set={(sources) => set({ ...settings, sources })}
      />
    </>
  );
}

interface WaysProps {
  readonly take: (() => void) | undefined;
  readonly close: () => void;
  readonly heard: readonly StepAsked[] | undefined;
}

/** The step is done, or not now; what it would change can be heard. */
const Ways = ({ take, close, heard }: WaysProps) => (
  <div className="sticky -bottom-3 mt-3 flex gap-2 border-t border-line bg-sheet py-3">
    <Button kind="next" disabled={!take} onClick={take}>
      Do it
    </Button>
    <Button title="Not now (Escape)" onClick={close}>
      Not now
    </Button>
    {heard && <HearButton by={preparedStep} steps={heard} className="ml-auto" />}
  </div>
);

/** Escape leaves a step, Enter in one of its fields does it; in what opens, presses or has lines of its own it does that. */
const stepKeys =
  (close: () => void, take: (() => void) | undefined) =>
  (e: KeyboardEvent<HTMLElement>): void => {
    if (e.defaultPrevented) return;
    if (e.key === 'Escape') {
      e.preventDefault();
      close();
    } else if (
      e.key === 'Enter' &&
      take &&
      (e.target instanceof HTMLInputElement || e.target === e.currentTarget)
    ) {
      e.preventDefault();
      take();
    }
  };

/** What a step works on: what was chosen by hand, or tracks; nothing is said of one on the song as a whole. */
function OnWhat({
  song,
  chosen,
  tracks,
}: {
  song: SongView;
  chosen: ChosenEvents | undefined;
  tracks: readonly TrackView[] | undefined;
}) {
  if (chosen) return <p className="mb-2">On {count(chosen.count, `chosen ${chosen.says}`)}</p>;
  if (!tracks) return null;
  const [only] = tracks;
  return (
    <p className="mb-2">
      On{' '}
      {tracks.length === song.tracks.length
        ? 'all tracks'
        : tracks.length === 1
          ? only!.name || `track ${song.tracks.indexOf(only!) + 1}`
          : count(tracks.length, 'track')}
    </p>
  );
}

function Gone({ close }: { close: () => void }) {
  return (
    <section aria-label="Step">
      <p className="mb-2">The tracks this step was for are no longer in the song.</p>
      <Button onClick={close}>Close</Button>
    </section>
  );
}

/** Lanes that occur in the tracks, with their names. */
function lanesIn(tracks: readonly TrackView[]): (readonly [number | string, string])[] {
  const names = new Map<number, string>();
  for (const t of tracks) for (const c of t.controllers) names.set(c.controller, c.name);
  const others = [
    ['bend', 'Pitch bend', (t: TrackView) => t.counts.pitchBend],
    ['pressure', 'Pressure', (t: TrackView) => t.counts.pressure],
    ['program', 'Programs', (t: TrackView) => t.counts.programChanges],
  ] as const;
  return [
    ...[...names]
      .sort(([a], [b]) => a - b)
      .map(([number, name]) => [number, `${number} ${name}`] as const),
    ...others.flatMap(([what, name, has]) =>
      tracks.some((t) => has(t) > 0) ? [[what, name] as const] : [],
    ),
  ];
}

function BarsField({
  prepared,
  chosen,
  bars,
  needed,
}: {
  prepared: Prepared;
  chosen: Bars | undefined;
  bars: number;
  /** There is no step without them. */
  needed: boolean;
}) {
  const { prepare } = usePreparedStep();
  const span = useScope((s) => s.span);
  const { from, to } = chosen ?? { from: 1, to: bars };
  const set = (next: Bars): void => {
    const all = !needed && next.from === 1 && next.to === bars;
    if (prepared.bars === undefined) span(all ? undefined : next);
    else prepare({ ...prepared, bars: all ? 'all' : next });
  };
  const box = 'num w-[62px] rounded border border-line bg-paper px-1.5 py-0.5 text-right';
  return (
    <div className="mb-2.5 flex items-center gap-2">
      Bars
      <input
        type="number"
        aria-label="First bar"
        className={box}
        min={1}
        max={to}
        value={from}
        onChange={(e) =>
          set({ from: Math.min(to, Math.max(1, Math.round(Number(e.target.value)) || 1)), to })
        }
      />
      to
      <input
        type="number"
        aria-label="Last bar"
        className={box}
        min={from}
        max={bars}
        value={to}
        onChange={(e) =>
          set({
            from,
            to: Math.max(from, Math.min(bars, Math.round(Number(e.target.value)) || bars)),
          })
        }
      />
    </div>
  );
}
