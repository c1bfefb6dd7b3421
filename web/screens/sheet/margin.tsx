import { keyNow } from '../../keys/shown.ts';
import { ArrowDown, ArrowUp, Pencil, Trash2 } from 'lucide-react';
import { Suspense, useEffect, useRef, useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { useFindings, useOperations } from '../../api/queries.ts';
import { usePreview } from '../../api/preview.ts';
import { Button } from '../../components/button.tsx';
import { NameField } from '../../components/name-field.tsx';
import { counts } from '../../components/text.ts';
import { followFocus, goOnWithFindings } from '../../state/finding-in-hand.ts';
import { usePreparedStep } from '../../state/step.ts';
import { InNumbers, ManyFacts, SongFacts, TrackFacts } from './facts.tsx';
import { FindingsList } from './findings/findings-list.tsx';
import { StepMenu } from '../../step/step-menu.tsx';
import { StepPanel } from './later.tsx';
import type { TrackActions } from './use-track-actions.ts';

/** What is selected, in numbers, and what can be done with it. */
export function Margin({
  song,
  selected,
  actions,
}: {
  song: SongView;
  selected: readonly TrackView[];
  actions: TrackActions;
}) {
  const prepared = usePreparedStep((s) => s.prepared);
  const { settled, isFirst, isLast } = useSettled(song);
  const margin = useRef<HTMLElement>(null);
  useEffect(() => {
    addEventListener('focusin', followFocus);
    return () => removeEventListener('focusin', followFocus);
  }, []);
  useEffect(() => {
    // Where nothing is left to settle the margin says so first.
    if (settled && !prepared) goOnWithFindings(() => margin.current?.querySelector('h2') ?? null);
  });
  return (
    <aside
      ref={margin}
      aria-label="Margin"
      className="min-h-0 overflow-auto border-l border-line bg-sheet px-4 py-3"
    >
      {prepared ? (
        <Suspense>
          <StepPanel song={song} prepared={prepared} selected={selected} />
        </Suspense>
      ) : (
        <>
          {selected.length === 0 && song.notes > 0 && (
            <Button className="mb-3" onClick={actions.guess}>
              What may play the parts …
            </Button>
          )}
          {selected.length === 0 && isFirst && <FindingsList song={song} />}
          {selected.length === 0 && settled && <SongFacts song={song} />}
          {selected.length === 1 && <TrackFacts track={selected[0]!} song={song} />}
          {selected.length > 1 && <ManyFacts tracks={selected} />}
          {selected.length > 0 && (
            <>
              <Actions song={song} selected={selected} actions={actions} />
              <FindingsList song={song} tracks={{ ids: actions.selected }} />
            </>
          )}
          {selected.length === 1 && <InNumbers song={song} track={selected[0]!} />}
          {(settled || selected.length > 0) && (
            <StepMenu song={song.id} all={selected.length === 0} />
          )}
          {selected.length === 0 && isLast && <FindingsList song={song} />}
          {selected.length > 0 && (
            <FindingsList song={song} tracks={{ ids: actions.selected, others: true }} />
          )}
        </>
      )}
    </aside>
  );
}

/** Of large songs what is found is waited for no longer than this. */
const mostWaitMs = 5000;

interface Settled {
  readonly settled: boolean;
  /** Where the findings of the song stand; neither while what they stand beneath is not there. */
  readonly isFirst: boolean;
  readonly isLast: boolean;
}

/**
 * Whether the findings are there: what stands beneath them comes with them, so that it does not move. Those of a
 * song that come late stand beneath all else, once that is there.
 */
function useSettled(song: SongView): Settled {
  const { data, error } = useFindings(song.id, song.revision);
  const { isPending } = useOperations();
  const [lateSong, setLateSong] = useState<string>();
  const there = data !== undefined || error !== null;
  useEffect(() => {
    if (there) return;
    const timer = setTimeout(() => setLateSong(song.id), mostWaitMs);
    return () => clearTimeout(timer);
  }, [there, song.id]);
  const late = lateSong === song.id;
  return { settled: there || late, isFirst: !late, isLast: late && !isPending };
}

function Actions({
  song,
  selected,
  actions,
}: {
  song: SongView;
  selected: readonly TrackView[];
  actions: TrackActions;
}) {
  const [naming, setNaming] = useState(false);
  const ids = selected.map((t) => t.id);
  const preview = usePreview(song, { operation: 'tracks.remove', scope: { tracks: ids } });
  const onlyMap = song.mapTrack && ids.length === 1 && ids[0] === song.tracks[0]!.id;
  const removed = preview.data?.report.changes.filter((c) => c.did === 'removed') ?? [];
  const moved = preview.data?.report.changes.find((c) => c.did === 'changed');
  const total: Record<string, number> = {};
  for (const change of removed)
    for (const [kind, n] of Object.entries(change.counts)) total[kind] = (total[kind] ?? 0) + n;
  return (
    <div className="mt-4 border-t border-line pt-3">
      {naming ? (
        <NameField
          label={`Name of ${selected.length} tracks`}
          initial={selected.length > 1 ? 'Part {n}' : selected[0]!.name}
          className="mb-2 w-full"
          done={(name) => {
            setNaming(false);
            if (name !== undefined) actions.rename(ids, name);
          }}
        />
      ) : (
        <TrackButtons
          rename={() => setNaming(true)}
          actions={actions}
          onlyMap={onlyMap}
          removable={!preview.isError}
        />
      )}
      {naming && selected.length > 1 && (
        <p className="mb-2 text-[12px] text-faint">{'{n}'} becomes 1, 2, 3 … in their order.</p>
      )}
      {/* Room for what the preview will say: what stands below must not move under the pointer. */}
      <p className="min-h-[68px] text-[12px] text-faint" aria-live="polite">
        {preview.isError && 'All tracks are selected: a song keeps at least one.'}
        {removed.length > 0 && `Removing takes out ${counts(total) || 'no events'}.`}
        {moved && ' Tempo, meters and markers stay, in the first track left.'}
      </p>
    </div>
  );
}

interface TrackButtonsProps {
  readonly rename: () => void;
  readonly actions: TrackActions;
  /** What is selected is the map, which stays first. */
  readonly onlyMap: boolean;
  readonly removable: boolean;
}

const TrackButtons = ({ rename, actions, onlyMap, removable }: TrackButtonsProps) => (
  <div className="mb-2 flex flex-wrap gap-1.5">
    <Button onClick={rename} disabled={actions.busy}>
      <Pencil size={13} aria-hidden /> Rename
    </Button>
    <Button
      onClick={() => actions.nudge(-1)}
      disabled={actions.busy || onlyMap}
      aria-label="Move up"
      title={`Move up (${keyNow('sheet-up')})`}
    >
      <ArrowUp size={14} aria-hidden />
    </Button>
    <Button
      onClick={() => actions.nudge(1)}
      disabled={actions.busy || onlyMap}
      aria-label="Move down"
      title={`Move down (${keyNow('sheet-down')})`}
    >
      <ArrowDown size={14} aria-hidden />
    </Button>
    <Button
      kind="harm"
      onClick={actions.remove}
      disabled={actions.busy || !removable}
      aria-label="Remove"
      title={`Remove (${keyNow('sheet-remove')})`}
    >
      <Trash2 size={13} aria-hidden /> Remove
    </Button>
  </div>
);
