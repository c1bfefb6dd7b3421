import { keyNow } from '../keys/shown.ts';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import type { OperationView } from '#contracts/steps.ts';
import { useOperations } from '../api/queries.ts';
import { Button } from '../components/button.tsx';
import { count } from '../components/text.ts';
import { useChosen } from '../state/chosen.ts';
import { usePreparedStep } from '../state/step.ts';
import { setBarsOfChosen } from './bars-of-chosen.ts';
import { groups } from './groups.ts';
import { OperationLinks } from './operation-links.tsx';
import { StepPanel } from './step-panel.tsx';

/**
 * Beside a view in which notes or events are chosen by hand: the steps that work on these, and the one that
 * is being prepared. Opened, it has the focus; closed, whoever opened it gets it back.
 */
export function ChosenMargin({
  song,
  waiting = false,
  close,
}: {
  /** The song that the rows which are shown belong to: for a moment, an older state of it. */
  song: SongView;
  /** What is shown is on its way. */
  waiting?: boolean;
  close: () => void;
}) {
  const chosen = useChosen((s) => s.chosen);
  const { prepared, prepare } = usePreparedStep();
  const operations = useOperations().data?.filter((o) => o.takesRows) ?? [];
  const aside = useRef<HTMLElement>(null);
  const ready = operations.length > 0;
  useEffect(() => {
    if (!ready || prepared || aside.current?.contains(document.activeElement)) return;
    aside.current?.querySelector('button')?.focus();
  }, [ready, prepared]);
  const any = (chosen?.count ?? 0) > 0;
  // While what is chosen is looked for after a step, the step stays what it was for.
  const [last, setLast] = useState(chosen);
  if (any && last !== chosen) setLast(chosen);
  // A step that was begun elsewhere was for something else.
  useEffect(() => prepare(undefined), [prepare]);
  useCloseWhenGone(any || waiting, () => {
    prepare(undefined);
    close();
  });
  return (
    <aside
      ref={aside}
      aria-label="Margin"
      className="w-[300px] shrink-0 overflow-auto border-l border-line bg-sheet px-4 py-3"
      onKeyDown={(e) => {
        if (e.key !== 'Escape' || e.defaultPrevented) return;
        e.preventDefault();
        if (prepared) prepare(undefined);
        else close();
      }}
    >
      {prepared ? (
        <StepPanel song={song} prepared={prepared} selected={undefined} chosen={last} />
      ) : (
        <WithThese
          says={chosen ? count(chosen.count, chosen.says) : 'nothing'}
          operations={operations}
          begin={(operation) => prepare({ operation, settings: {} })}
          bars={() => setBarsOfChosen(song)}
          close={close}
        />
      )}
    </aside>
  );
}

/**
 * Where nothing is chosen any more there is nothing to do here; after a step what is chosen is looked for in
 * the song as it is now.
 */
function useCloseWhenGone(there: boolean, close: () => void): void {
  const gone = useEffectEvent(close);
  useEffect(() => {
    if (there) return;
    const timer = setTimeout(gone, 600);
    return () => clearTimeout(timer);
  }, [there]);
}

/** What can be done with what is chosen. */
const WithThese = ({
  says,
  operations,
  begin,
  bars,
  close,
}: {
  says: string;
  operations: readonly OperationView[];
  begin: (operation: string) => void;
  bars: () => void;
  close: () => void;
}) => (
  <section aria-label="What to do with these">
    <h2 className="seam mb-2 pb-1 text-[14px] font-semibold">{says} chosen</h2>
    {Object.entries(groups).map(([group, name]) => (
      <OperationLinks
        key={group}
        about={name}
        operations={operations.filter((o) => o.group === group)}
        begin={(o) => begin(o.id)}
      />
    ))}
    <div className="mt-2 flex gap-2">
      <Button title={`The bars of these become the scope (${keyNow('bars')})`} onClick={bars}>
        Their bars
      </Button>
      <Button onClick={close}>Close</Button>
    </div>
  </section>
);
