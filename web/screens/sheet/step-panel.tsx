import { useMemo } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import type { OperationView } from '#contracts/steps.ts';
import { problemOf } from '../../api/client.ts';
import { useOperations, usePreview, useStep, type StepAsked } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { count, counts } from '../../components/text.ts';
import { usePreparedStep, type Prepared } from '../../state/step.ts';
import { BeforeAfter } from './before-after.tsx';
import { SchemaForm, type Field } from './schema-form.tsx';
import { useDebounced } from './use-debounced.ts';

/** A step being prepared: its settings, what it would do, and the button that does it. */
export function StepPanel({ song, prepared, selected }: { song: SongView; prepared: Prepared; selected: readonly TrackView[] }) {
  const operations = useOperations();
  const operation = operations.data?.find((o) => o.id === prepared.operation);
  if (!operation) return <p className="text-faint">Looking …</p>;
  return <Panel song={song} prepared={prepared} operation={operation} selected={selected} />;
}

/** The step as it would be asked for now. */
function asked(prepared: Prepared, tracks: readonly TrackView[], all: boolean): StepAsked {
  return { operation: prepared.operation, settings: { ...prepared.settings }, scope: { tracks: all ? 'all' : tracks.map((t) => t.id), ...(prepared.bars ? { bars: prepared.bars } : {}) } };
}

function Panel({ song, prepared, operation, selected }: { song: SongView; prepared: Prepared; operation: OperationView; selected: readonly TrackView[] }) {
  const { prepare } = usePreparedStep();
  const tracks = useMemo(() => (prepared.tracks ? song.tracks.filter((t) => prepared.tracks!.includes(t.id)) : selected.length > 0 ? selected : song.tracks), [prepared.tracks, selected, song.tracks]);
  const request = useMemo(() => asked(prepared, tracks, tracks.length === song.tracks.length), [prepared, tracks, song.tracks.length]);
  const preview = usePreview(song.id, song.revision, useDebounced(tracks.length === 0 ? undefined : request, 120));
  const step = useStep(song.id, song.revision);
  const fields = (operation.settings as { properties?: Record<string, Field> }).properties ?? {};
  const close = (): void => prepare(undefined);
  if (tracks.length === 0) return <Gone close={close} />;
  return (
    <section aria-label="Step" className="mb-4">
      <h2 className="seam mb-2 pb-1 text-[14px] font-semibold">{operation.title}</h2>
      <p className="mb-2 text-[12.5px] text-faint">{operation.summary}</p>
      <p className="mb-2">
        On {tracks.length === song.tracks.length ? 'all tracks' : tracks.length === 1 ? tracks[0]!.name || `track ${song.tracks.indexOf(tracks[0]!) + 1}` : count(tracks.length, 'track')}
      </p>
      {operation.scope === 'events' && <BarsField prepared={prepared} bars={song.timing.bars} />}
      <SchemaForm fields={fields} values={prepared.settings} set={(settings) => prepare({ ...prepared, settings })} choices={controllersIn(tracks)} />
      <Outcome preview={preview} song={song} />
      <div className="sticky -bottom-3 mt-3 flex gap-2 border-t border-line bg-sheet py-3">
        <Button kind="next" disabled={step.isPending || preview.data?.changed !== true || preview.isError} onClick={() => step.mutate(request, { onSuccess: close })}>
          Do it
        </Button>
        <Button onClick={close}>Not now</Button>
      </div>
    </section>
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

/** Controllers that occur in the tracks, by number, with their names. */
function controllersIn(tracks: readonly TrackView[]): (readonly [number, string])[] {
  const names = new Map<number, string>();
  for (const t of tracks) for (const c of t.controllers) names.set(c.controller, c.name);
  return [...names].sort(([a], [b]) => a - b).map(([number, name]) => [number, `${number} ${name}`] as const);
}

function BarsField({ prepared, bars }: { prepared: Prepared; bars: number }) {
  const { prepare } = usePreparedStep();
  const { from, to } = prepared.bars ?? { from: 1, to: bars };
  const set = (next: { from: number; to: number }): void => prepare({ ...prepared, bars: next.from === 1 && next.to === bars ? undefined : next });
  const box = 'num w-[62px] rounded border border-line bg-paper px-1.5 py-0.5 text-right';
  return (
    <div className="mb-2.5 flex items-center gap-2">
      Bars
      <input type="number" aria-label="First bar" className={box} min={1} max={to} value={from} onChange={(e) => set({ from: Math.min(to, Math.max(1, Math.round(Number(e.target.value)) || 1)), to })} />
      to
      <input type="number" aria-label="Last bar" className={box} min={from} max={bars} value={to} onChange={(e) => set({ from, to: Math.max(from, Math.min(bars, Math.round(Number(e.target.value)) || bars)) })} />
    </div>
  );
}

/** What would come of it: counts, before and after; or why nothing would. */
function Outcome({ preview, song }: { preview: ReturnType<typeof usePreview>; song: SongView }) {
  if (preview.isError) {
    const problem = problemOf(preview.error);
    return (
      <p role="alert" className="mt-3 border-l-3 border-rust pl-2">
        {problem.message}: expected {problem.expected}; found {problem.found}. {problem.remedy}
      </p>
    );
  }
  if (!preview.data) return <p className="mt-3 text-faint">Working it out …</p>;
  const { report, changed, after } = preview.data;
  if (!changed) return <p className="mt-3 text-faint">It would change nothing. {report.skipped[0]?.why}</p>;
  const total: Record<string, number> = {};
  for (const change of report.changes) for (const [kind, n] of Object.entries(change.counts)) total[kind] = (total[kind] ?? 0) + n;
  return (
    <div className="mt-3 border-t border-line pt-2" aria-live="polite">
      <p>
        It would touch {counts(total) || count(report.changes.length, 'track')}
        {report.changes.length > 1 && ` in ${report.changes.length} tracks`}.
      </p>
      {after && <BeforeAfter before={song.tracks} after={after} />}
    </div>
  );
}
