import { format } from 'date-fns';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import type { StepView } from '#contracts/steps.ts';
import {
  stepBarsQuery,
  useGoTo,
  useOperations,
  useRedo,
  useSteps,
  useUndo,
} from '../../api/queries.ts';
import { useSaveRecipe } from '../../api/recipes.ts';
import { Button } from '../../components/button.tsx';
import { count, counts } from '../../components/text.ts';
import type { SongView } from '#contracts/songs.ts';
import { LongTable } from '../../tables/long-table.tsx';
import type { Column } from '../../tables/use-rows.tsx';
import { fitsRecipes } from '../../step/fits-recipes.ts';
import { mostEvents } from '../../api/preview.ts';
import { useShownBars } from '../../state/shown-bars.ts';
import { useThisSong } from '../../state/use-song.ts';
import { recipeFrom } from './recipe-from.ts';
import { CheckBox } from '../../fields/check.tsx';

/** Every step ever taken, with what it did. Nothing is overwritten: what was undone is still here. */
export function HistoryScreen() {
  const song = useThisSong();
  const steps = useSteps(song.id);
  const list = [...(steps.data?.steps ?? [])].reverse();
  const operations = useOperations().data ?? [];
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const save = useSaveRecipe();
  const navigate = useNavigate();
  const fitting = new Set(operations.filter(fitsRecipes).map((o) => o.id));
  const make = (): void => {
    const recipe = recipeFrom(
      song,
      (steps.data?.steps ?? []).filter((s) => chosen.has(s.revision)),
    );
    save.mutate({ recipe }, { onSuccess: ({ id }) => void navigate(`/recipes?open=${id}`) });
  };
  const toggle = (revision: number): void => {
    const next = new Set(chosen);
    if (!next.delete(revision)) next.add(revision);
    setChosen(next);
  };
  const go = useGoTo(song);
  const columns = historyColumns(song, {
    chosen,
    choose: (step) =>
      !fitting.has(step.operation) || step.scope.rows ? undefined : () => toggle(step.revision),
    head: steps.data?.head,
    busy: go.isPending,
    goTo: go.mutate,
  });
  const point = usePointedStep(song);
  return (
    <main aria-label="History" className="flex min-h-0 flex-col px-4 pt-3">
      <div className="flex min-h-0 w-full max-w-[1100px] flex-1 flex-col">
        <HistoryHead song={song}>
          {list.length > 0 && (
            <MakeRecipe of={chosen.size} make={save.isPending ? undefined : make} />
          )}
        </HistoryHead>
        <LongTable
          label="Steps"
          columns={columns}
          rows={[
            ...list.map((step) => ({ key: `step ${step.revision}`, step })),
            { key: 'received', step: undefined },
          ]}
          keyOf={(row) => row.key}
          rowHeight={52}
          point={(row) => point(row?.step?.revision)}
          rowLook={({ step }) => lookOf(step, steps.data?.head)}
        />
      </div>
    </main>
  );
}

/** What was chosen becomes a recipe; without `make` one is on its way. */
const MakeRecipe = ({ of, make }: { of: number; make: (() => void) | undefined }) => (
  <Button
    disabled={of === 0 || !make}
    title="Choose steps below: they become a recipe for other songs"
    onClick={make}
  >
    {of === 0 ? 'Make a recipe of steps' : `Make a recipe of ${count(of, 'step')}`}
  </Button>
);

const looks: Record<StepView['state'], string> = {
  'in force': '',
  undone: 'text-faint',
  'set aside': 'text-faint italic',
};

const inForce = ({ steps }: SongView): string =>
  steps === 0 ? 'The song is as it was received.' : `${count(steps, 'step')} in force`;

/** A step, or the file as it was received, before all of them. */
interface HistoryRow {
  readonly key: string;
  readonly step: StepView | undefined;
}

/** The strip shows what the step that is pointed at changed. */
function usePointedStep({ id, tracks }: SongView): (revision: number | undefined) => void {
  const [revision, point] = useState<number>();
  const { data } = useQuery({
    ...stepBarsQuery(id, revision ?? 0),
    // Of very large songs it would be worked out for longer than somebody points at it.
    enabled: revision !== undefined && tracks.reduce((sum, t) => sum + t.events, 0) <= mostEvents,
  });
  useEffect(() => {
    const { show } = useShownBars.getState();
    show(revision === undefined ? [] : (data?.bars ?? []));
    return () => show([]);
  }, [revision, data]);
  return point;
}

interface Choosing {
  readonly chosen: ReadonlySet<number>;
  /** Undefined for steps that no recipe can hold. */
  readonly choose: (step: StepView) => (() => void) | undefined;
  /** Where the song is. */
  readonly head: number | undefined;
  readonly busy: boolean;
  readonly goTo: (revision: number) => void;
}

/** What the history says of a step, and the way to the song as that step left it. */
function historyColumns(
  song: SongView,
  { chosen, choose, head, busy, goTo }: Choosing,
): Column<HistoryRow>[] {
  return [
    {
      id: 'choose',
      heading: 'Into a recipe',
      hidden: true,
      width: '34px',
      cell: ({ step }) =>
        step && <Chooser step={step} chosen={chosen.has(step.revision)} choose={choose(step)} />,
    },
    {
      id: 'what',
      heading: 'Step',
      width: 'minmax(0,1fr)',
      cell: ({ step }) =>
        step ? (
          <What step={step} />
        ) : (
          <p className="font-medium">Received {song.original.fileName}</p>
        ),
    },
    {
      id: 'state',
      heading: 'State',
      width: '90px',
      cell: ({ step }) =>
        step && step.state !== 'in force' && <span className="text-[12px]">{step.state}</span>,
    },
    {
      id: 'go',
      heading: 'Go there',
      hidden: true,
      width: '96px',
      align: 'right',
      cell: ({ step }) => <GoThere step={step} head={head} busy={busy} goTo={goTo} />,
    },
    {
      id: 'when',
      heading: 'When',
      width: '186px',
      align: 'right',
      cell: ({ step }) => (
        <span className="num text-[11.5px] text-faint">
          {format(new Date(step?.at ?? song.createdAt), 'd MMM yyyy, HH:mm:ss')}
        </span>
      ),
    },
  ];
}

const Chooser = ({
  step,
  chosen,
  choose,
}: {
  step: StepView;
  chosen: boolean;
  choose: (() => void) | undefined;
}) => (
  <CheckBox
    label={`Into a recipe: ${step.described}`}
    checked={chosen}
    disabled={!choose}
    title={
      choose
        ? 'Into a recipe'
        : step.scope.rows
          ? 'It was for events chosen by hand, which no other song has: no recipe can hold it'
          : 'It names places of this song only, so no recipe can hold it'
    }
    set={() => choose?.()}
  />
);

/** What a step did, and, unfolded, to what. */
function What({ step }: { step: StepView }) {
  const { changes, skipped, told = [] } = step.report;
  return (
    <div className="py-1.5">
      <p
        className={`font-medium ${step.state === 'in force' ? '' : 'line-through decoration-line'}`}
      >
        {step.described}
      </p>
      <details className="text-[12.5px] text-faint">
        <summary className="w-fit cursor-pointer">
          {count(changes.length, 'change')}
          {skipped.length > 0 && `, ${skipped.length} left as they were`}
        </summary>
        <ul className="mt-1 space-y-0.5 pl-4">
          {changes.map((c, i) => (
            <li key={i}>
              {c.name}: {c.did}
              {c.detail && `, ${c.detail}`}
              {Object.keys(c.counts).length > 0 && ` (${counts(c.counts)})`}
            </li>
          ))}
          {told.map((say) => (
            <li key={say}>{say}</li>
          ))}
          {skipped.map((s, i) => (
            <li key={`s${i}`}>
              {s.name ? `${s.name}: ` : ''}
              {s.why}
            </li>
          ))}
        </ul>
      </details>
    </div>
  );
}

/** The song becomes what it was after a step, or as it was received. */
function GoThere({
  step,
  head,
  busy,
  goTo,
}: Pick<Choosing, 'head' | 'busy' | 'goTo'> & Pick<HistoryRow, 'step'>) {
  const revision = step?.revision ?? 0;
  const here = revision === head;
  const idle = here || busy || head === undefined;
  return (
    <Button
      kind={here ? 'quiet' : 'plain'}
      className="!py-0.5 text-[12px]"
      aria-label={`${here ? 'Here now' : 'Go to'}: ${step?.described ?? 'as received'}`}
      aria-current={here ? 'step' : undefined}
      aria-disabled={idle}
      title={
        here
          ? 'The song is as this left it'
          : 'The song becomes what it was then; every step stays in this list'
      }
      onClick={() => idle || goTo(revision)}
    >
      {here ? 'here now' : 'Go here'}
    </Button>
  );
}

/** What is in force, and the ways back and on. */
function HistoryHead({ song, children }: { song: SongView; children: ReactNode }) {
  const undo = useUndo(song.id);
  const redo = useRedo(song.id);
  return (
    <div className="flex items-center gap-2">
      <h2 className="text-[16px] font-semibold">History</h2>
      <p className="text-faint">{inForce(song)}</p>
      <div className="ml-auto flex gap-2">
        {children}
        <Button disabled={!song.undo || undo.isPending} onClick={() => undo.mutate()}>
          Undo
        </Button>
        <Button disabled={!song.redo || redo.isPending} onClick={() => redo.mutate()}>
          Redo
        </Button>
      </div>
    </div>
  );
}

const lookOf = (step: StepView | undefined, head: number | undefined): string =>
  (step?.revision ?? 0) === head ? '!bg-amber-soft' : step ? looks[step.state] : '';
