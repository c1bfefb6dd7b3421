import { useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { shapes, type Shape } from '#core/timing/gradual.ts';
import type { MeterMap } from '#core/timing/meter-map.ts';
import { useStep } from '../../api/queries.ts';
import type { Tempos } from '../../api/runs.ts';
import { moveHandle, moveRun, type Handle } from './map-model.ts';
import { EditButtons } from './edit-buttons.tsx';
import { PlaceField, box, placeText, tickIn } from './place-field.tsx';

interface Props {
  readonly song: SongView;
  readonly meters: MeterMap;
  readonly tempos: Tempos;
  /** A single tempo, or the beginning of a gradual change. */
  readonly handle: Handle;
  readonly done: () => void;
}

/** A tempo or a gradual change edited in its row: where it stands, and its values. */
export function TempoEditor({ song, meters, tempos, handle, done }: Props) {
  const step = useStep(song.id, song.revision);
  const run = handle.kind === 'point' ? undefined : tempos.runs[handle.run];
  const [place, setPlace] = useState(placeText(meters, handle.atTick));
  const [bpm, setBpm] = useState(said(handle.bpm));
  const [end, setEnd] = useState(run ? placeText(meters, run.toTick) : '');
  const [to, setTo] = useState(run ? said(run.to) : '');
  const [shape, setShape] = useState<Shape>(run?.shape ?? 'over beats');
  const [seconds, setSeconds] = useState(false);
  const at = tickIn(meters, place);
  const until = tickIn(meters, end);
  const tempo = (text: string): boolean => Number(text) >= 4 && Number(text) <= 60_000_000;
  const wrong =
    at === undefined ? `${place} is no place of this song.`
    : !tempo(bpm) || (run && !tempo(to)) ? 'A tempo is 4 BPM or more.'
    : run && (until === undefined || until <= at) ? 'A gradual change ends behind its beginning.'
    : undefined;
  const keep = (): void => {
    if (wrong || at === undefined) return;
    const edit = run ? moveRun(tempos, tempos.runs.indexOf(run), { fromTick: at, toTick: until!, from: Number(bpm), to: Number(to), shape }) : moveHandle(tempos, handle, at, Number(bpm));
    step.mutate({ operation: 'timing.tempos', settings: { ...edit, music: seconds ? 'keeps its seconds' : 'keeps its bars' } }, { onSuccess: done });
  };
  const number = (label: string, value: string, set: (text: string) => void) => (
    <label className="flex items-center gap-1">
      <span className="text-faint">{label}</span>
      <input type="number" step="any" className={`${box} num w-[84px]`} value={value} onChange={(e) => set(e.target.value)} /> BPM
    </label>
  );
  return (
    <form
      aria-label={`Change ${run ? 'gradual change' : 'tempo'} at ${placeText(meters, handle.atTick)}`}
      className="flex flex-wrap items-center gap-2 py-1"
      onSubmit={(e) => {
        e.preventDefault();
        keep();
      }}
      onKeyDown={(e) => e.key === 'Escape' && done()}
    >
      <PlaceField label={run ? 'From' : 'Place'} value={place} set={setPlace} meters={meters} />
      {number(run ? 'with' : 'Tempo', bpm, setBpm)}
      {run && (
        <>
          <PlaceField label="until" value={end} set={setEnd} meters={meters} />
          {number('to', to, setTo)}
          <label className="flex items-center gap-1">
            evenly
            <select className={box} value={shape} onChange={(e) => setShape(e.target.value as Shape)}>
              {shapes.map((s) => (
                <option key={s}>{s}</option>
              ))}
            </select>
          </label>
        </>
      )}
      <label className="flex items-center gap-1">
        <input type="checkbox" checked={seconds} onChange={(e) => setSeconds(e.target.checked)} /> the music keeps its seconds
      </label>
      <EditButtons wrong={wrong} busy={step.isPending} done={done} />
    </form>
  );
}

const said = (bpm: number): string => String(Math.round(bpm * 1000) / 1000);
