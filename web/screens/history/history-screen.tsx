import { format } from 'date-fns';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { StepView } from '#contracts/steps.ts';
import { useOperations, useRedo, useSteps, useUndo } from '../../api/queries.ts';
import { useSaveRecipe } from '../../api/recipes.ts';
import { Button } from '../../components/button.tsx';
import { count, counts } from '../../components/text.ts';
import { useThisSong } from '../../state/use-song.ts';
import { recipeFrom } from './recipe-from.ts';
import { CheckBox } from '../../fields/check.tsx';

/** Every step ever taken, with what it did. Nothing is overwritten: what was undone is still here. */
export function HistoryScreen() {
  const song = useThisSong();
  const steps = useSteps(song.id);
  const undo = useUndo(song.id);
  const redo = useRedo(song.id);
  const list = [...(steps.data?.steps ?? [])].reverse();
  const operations = useOperations().data ?? [];
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const save = useSaveRecipe();
  const navigate = useNavigate();
  const byHand = new Set(operations.filter((o) => o.byHand || o.id === 'song.name' || o.id === 'tracks.reorder').map((o) => o.id));
  const make = (): void => {
    const recipe = recipeFrom(song, (steps.data?.steps ?? []).filter((s) => chosen.has(s.revision)));
    save.mutate({ recipe }, { onSuccess: ({ id }) => void navigate(`/recipes?open=${id}`) });
  };
  const toggle = (revision: number): void => {
    const next = new Set(chosen);
    if (!next.delete(revision)) next.add(revision);
    setChosen(next);
  };
  return (
    <main aria-label="History" className="min-h-0 overflow-auto px-7 py-5">
      <div className="mx-auto max-w-[920px]">
        <div className="flex items-center gap-2">
          <h2 className="text-[19px] font-semibold">History</h2>
          <p className="text-faint">{song.steps === 0 ? 'The song is as it was received.' : `${count(song.steps, 'step')} in force`}</p>
          <div className="ml-auto flex gap-2">
            {list.length > 0 && (
              <Button disabled={chosen.size === 0 || save.isPending} title="Choose steps below: they become a recipe for other songs" onClick={make}>
                {chosen.size === 0 ? 'Make a recipe of steps' : `Make a recipe of ${count(chosen.size, 'step')}`}
              </Button>
            )}
            <Button disabled={!song.undo || undo.isPending} onClick={() => undo.mutate()}>
              Undo
            </Button>
            <Button disabled={!song.redo || redo.isPending} onClick={() => redo.mutate()}>
              Redo
            </Button>
          </div>
        </div>
        <ol className="mt-4 space-y-1">
          {list.map((step) => (
            <StepLine key={step.revision} step={step} at={step.revision === steps.data?.head} chosen={chosen.has(step.revision)} choose={byHand.has(step.operation) ? undefined : () => toggle(step.revision)} />
          ))}
          <li className={`rounded border px-4 py-2.5 ${steps.data?.head === 0 ? 'border-amber bg-amber-soft' : 'border-line bg-sheet'}`}>
            <p className="font-medium">Received {song.original.fileName}</p>
            <p className="num text-[11.5px] text-faint">{format(new Date(song.createdAt), 'd MMM yyyy, HH:mm:ss')}</p>
          </li>
        </ol>
      </div>
    </main>
  );
}

const looks: Record<StepView['state'], string> = { 'in force': '', undone: 'text-faint', 'set aside': 'text-faint italic' };

function StepLine({ step, at, chosen, choose }: { step: StepView; at: boolean; chosen: boolean; choose: (() => void) | undefined }) {
  const { changes, skipped } = step.report;
  return (
    <li className={`rounded border px-4 py-2.5 ${at ? 'border-amber bg-amber-soft' : 'border-line bg-sheet'} ${looks[step.state]}`}>
      <div className="flex items-baseline gap-3">
        <span className="translate-y-[2px]">
          <CheckBox label={`Into a recipe: ${step.described}`} checked={chosen} disabled={!choose} title={choose ? 'Into a recipe' : 'It names places of this song only, so no recipe can hold it'} set={() => choose?.()} />
        </span>
        <p className={`font-medium ${step.state === 'in force' ? '' : 'line-through decoration-line'}`}>{step.described}</p>
        {step.state !== 'in force' && <span className="text-[12px]">{step.state}</span>}
        <p className="num ml-auto text-[11.5px] text-faint">{format(new Date(step.at), 'd MMM yyyy, HH:mm:ss')}</p>
      </div>
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
          {skipped.map((s, i) => (
            <li key={`s${i}`}>
              {s.name}: {s.why}
            </li>
          ))}
        </ul>
      </details>
    </li>
  );
}
