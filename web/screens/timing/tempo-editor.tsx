import { zodResolver } from '@hookform/resolvers/zod';
import { useForm, type UseFormRegisterReturn } from 'react-hook-form';
import { z } from 'zod';
import type { SongView } from '#contracts/songs.ts';
import { shapes } from '#core/timing/gradual.ts';
import { meterAt, type MeterMap } from '#core/timing/meter-map.ts';
import { notatedBeat } from '#core/timing/notated-beat.ts';
import { fastestBpm } from '#core/units/units.ts';
import { useStep } from '../../api/queries.ts';
import type { Tempos } from '../../api/runs.ts';
import { asSaid } from '../../fields/choice.tsx';
import { firstError } from '../../fields/first-error.ts';
import { FormCheck, FormChoice, FormPlace } from '../../fields/form-parts.tsx';
import { box, placeText } from '../../fields/place-field.tsx';
import { placeSchema } from '../../fields/place-schema.ts';
import { EditButtons } from './edit-buttons.tsx';
import { moveHandle, moveRun, type Handle } from './map-model.ts';

interface Props {
  readonly song: SongView;
  readonly meters: MeterMap;
  readonly tempos: Tempos;
  /** A single tempo, or the beginning of a gradual change. */
  readonly handle: Handle;
  readonly done: () => void;
}

const ways = ['beat', 'quarter'] as const;

/**
 * What is typed of a tempo or a gradual change. `beat` is the beat of the meter there, in quarters: a tempo
 * may be counted in it.
 */
const tempoSchema = (meters: MeterMap, gradual: boolean, beat: number) => {
  const bpm = z.string();
  const inRange = (text: string, way: (typeof ways)[number]): boolean =>
    ((quarters) => quarters >= 4 && quarters <= fastestBpm)(
      Number(text) * (way === 'beat' ? beat : 1),
    );
  return z
    .object({
      place: placeSchema(meters),
      bpm,
      way: z.enum(ways),
      end: gradual ? placeSchema(meters) : z.string().transform(() => undefined),
      to: bpm,
      shape: z.enum(shapes),
      seconds: z.boolean(),
    })
    .refine((t) => inRange(t.bpm, t.way) && (!gradual || inRange(t.to, t.way)), {
      path: ['bpm'],
      message: 'A tempo is 4 quarter notes a minute or more.',
    })
    .refine((t) => t.end === undefined || t.end > t.place, {
      path: ['end'],
      message: 'A gradual change ends behind its beginning.',
    });
};

/** A tempo or a gradual change edited in its row: where it stands, and its values. */
export function TempoEditor({ song, meters, tempos, handle, done }: Props) {
  const step = useStep(song.id, song.revision);
  const run = handle.kind === 'point' ? undefined : tempos.runs[handle.run];
  // A tempo is typed in the beat of its meter, as it is shown, or in quarters; a gradual change in quarters.
  const beat = notatedBeat(meterAt(meters, handle.atTick));
  const counted = !run && beat.quarters !== 1;
  const { register, control, handleSubmit, getValues, setValue, formState } = useForm<
    Typed,
    unknown,
    Understood
  >({
    resolver: zodResolver(tempoSchema(meters, run !== undefined, beat.quarters)),
    mode: 'onChange',
    defaultValues: typedOf(meters, handle, run, counted ? beat.quarters : undefined),
  });
  const keep = handleSubmit(({ seconds, ...typed }) => {
    const edit = editOf(tempos, handle, run, typed, beat.quarters);
    const music = seconds ? 'keeps its seconds' : 'keeps its bars';
    step.mutate({ operation: 'timing.tempos', settings: { ...edit, music } }, { onSuccess: done });
  });
  const countIn = (way: (typeof ways)[number]): void => {
    const quarters = Number(getValues('bpm')) * (getValues('way') === 'beat' ? beat.quarters : 1);
    setValue('bpm', said(quarters / (way === 'beat' ? beat.quarters : 1)));
    setValue('way', way, { shouldValidate: true });
  };
  return (
    <form
      aria-label={`Change ${run ? 'gradual change' : 'tempo'} at ${placeText(meters, handle.atTick)}`}
      className="flex flex-wrap items-center gap-2 py-1"
      onSubmit={(e) => void keep(e)}
      onKeyDown={(e) => e.key === 'Escape' && done()}
    >
      <FormPlace control={control} name="place" label={run ? 'From' : 'Place'} meters={meters} />
      <Bpm label={run ? 'with' : 'Tempo'} field={register('bpm')} />
      {counted && (
        <FormChoice
          control={control}
          name="way"
          label="Counted in"
          hidden
          options={countings(beat.name)}
          set={(way) => countIn(way === 'beat' ? 'beat' : 'quarter')}
        />
      )}
      {run && (
        <>
          <FormPlace control={control} name="end" label="until" meters={meters} />
          <Bpm label="to" field={register('to')} />
          <FormChoice control={control} name="shape" label="evenly" options={asSaid(shapes)} />
        </>
      )}
      <FormCheck control={control} name="seconds" label="the music keeps its seconds" />
      <EditButtons
        wrong={firstError(formState.errors, ['place', 'bpm', 'end'])}
        busy={step.isPending}
        done={done}
      />
    </form>
  );
}

const countings = (beat: string): [string, string][] => [
  ['beat', `of the ${beat}`],
  ['quarter', 'of the quarter'],
];

type Typed = z.input<ReturnType<typeof tempoSchema>>;
type Understood = z.output<ReturnType<typeof tempoSchema>>;

const Bpm = ({ label, field }: { label: string; field: UseFormRegisterReturn }) => (
  <label className="flex items-center gap-1">
    <span className="text-faint">{label}</span>
    <input type="number" step="any" className={`${box} num w-[84px]`} {...field} /> BPM
  </label>
);

const said = (bpm: number): string => String(Math.round(bpm * 1000) / 1000);

/** What becomes of the tempos by what was typed; `beat` in quarters, a tempo may be counted in it. */
function editOf(
  tempos: Tempos,
  handle: Handle,
  run: Tempos['runs'][number] | undefined,
  { place, bpm, way, end, to, shape }: Omit<Understood, 'seconds'>,
  beat: number,
) {
  if (!run) return moveHandle(tempos, handle, place, Number(bpm) * (way === 'beat' ? beat : 1));
  return moveRun(tempos, tempos.runs.indexOf(run), {
    fromTick: place,
    toTick: end!,
    from: Number(bpm),
    to: Number(to),
    shape,
  });
}

/** What stands in the form first; `beat` in quarters where the tempo is counted in it. */
const typedOf = (
  meters: MeterMap,
  handle: Handle,
  run: Tempos['runs'][number] | undefined,
  beat: number | undefined,
): Typed => ({
  place: placeText(meters, handle.atTick),
  bpm: said(handle.bpm / (beat ?? 1)),
  way: beat === undefined ? 'quarter' : 'beat',
  end: run ? placeText(meters, run.toTick) : '',
  to: run ? said(run.to) : '',
  shape: run?.shape ?? 'over beats',
  seconds: false,
});
