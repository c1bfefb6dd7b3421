import { useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { shapes, type Shape } from '#core/timing/gradual.ts';
import { meterAt, type MeterMap } from '#core/timing/meter-map.ts';
import { notatedBeat } from '#core/timing/notated-beat.ts';
import { useStep } from '../../api/queries.ts';
import type { Tempos } from '../../api/runs.ts';
import { moveHandle, moveRun, type Handle } from './map-model.ts';
import { fastestBpm } from '#core/units/units.ts';
import { EditButtons } from './edit-buttons.tsx';
import { PlaceField, box, placeText, tickIn } from '../../fields/place-field.tsx';
import { Choice, asSaid } from '../../fields/choice.tsx';
import { Check } from '../../fields/check.tsx';

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
  // A tempo is typed in the beat of its meter, as it is shown, or in quarters; a gradual change in quarters.
  const beat = notatedBeat(meterAt(meters, handle.atTick));
  const [inBeats, countIn] = useState(!run && beat.quarters !== 1);
  const quarters = inBeats ? beat.quarters : 1;
  const [bpm, setBpm] = useState(said(handle.bpm / quarters));
  const [end, setEnd] = useState(run ? placeText(meters, run.toTick) : '');
  const [to, setTo] = useState(run ? said(run.to) : '');
  const [shape, setShape] = useState<Shape>(run?.shape ?? 'over beats');
  const [seconds, setSeconds] = useState(false);
  const at = tickIn(meters, place);
  const until = tickIn(meters, end);
  const tempo = (text: string): boolean => Number(text) * quarters >= 4 && Number(text) * quarters <= fastestBpm;
  const wrong =
    at === undefined ? `${place} is no place of this song.`
    : !tempo(bpm) || (run && !tempo(to)) ? 'A tempo is 4 quarter notes a minute or more.'
    : run && (until === undefined || until <= at) ? 'A gradual change ends behind its beginning.'
    : undefined;
  const keep = (): void => {
    if (wrong || at === undefined) return;
    const edit = run ? moveRun(tempos, tempos.runs.indexOf(run), { fromTick: at, toTick: until!, from: Number(bpm), to: Number(to), shape }) : moveHandle(tempos, handle, at, Number(bpm) * quarters);
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
      {!run && beat.quarters !== 1 && (
        <Choice
          label="Counted in"
          hidden
          value={inBeats ? 'beat' : 'quarter'}
          options={[['beat', `of the ${beat.name}`], ['quarter', 'of the quarter']]}
          set={(way) => {
            setBpm(said((Number(bpm) * quarters) / (way === 'beat' ? beat.quarters : 1)));
            countIn(way === 'beat');
          }}
        />
      )}
      {run && (
        <>
          <PlaceField label="until" value={end} set={setEnd} meters={meters} />
          {number('to', to, setTo)}
          <Choice label="evenly" value={shape} options={asSaid(shapes)} set={setShape} />
        </>
      )}
      <Check checked={seconds} set={setSeconds}>
        the music keeps its seconds
      </Check>
      <EditButtons wrong={wrong} busy={step.isPending} done={done} />
    </form>
  );
}

const said = (bpm: number): string => String(Math.round(bpm * 1000) / 1000);
