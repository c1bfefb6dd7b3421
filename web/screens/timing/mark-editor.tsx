import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import type { SongView } from '#contracts/songs.ts';
import type { MeterMap } from '#core/timing/meter-map.ts';
import { useStep, type StepAsked } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { firstError } from '../../fields/first-error.ts';
import { FormCheck, FormChoice, FormPlace } from '../../fields/form-parts.tsx';
import { box, nearestBar, placeText, tickIn } from '../../fields/place-field.tsx';
import { placeSchema } from '../../fields/place-schema.ts';
import { EditButtons } from './edit-buttons.tsx';
import { marksOf, type MarkRow } from './map-rows.ts';

interface Props {
  readonly song: SongView;
  readonly meters: MeterMap;
  readonly mark: MarkRow;
  readonly done: () => void;
}

const kinds = ['marker', 'cue point', 'text', 'section'] as const;

/** What is typed of a mark: a section ends behind its beginning. */
const markSchema = (meters: MeterMap, section: boolean) =>
  z
    .object({
      text: z.string().trim().min(1, 'It needs a name.').max(200),
      kind: z.enum(kinds),
      place: placeSchema(meters),
      end: section ? placeSchema(meters) : z.string().transform(() => undefined),
      track: z.string(),
      travels: z.boolean(),
      timed: z.boolean(),
    })
    .refine(({ place, end }) => end === undefined || end > place, {
      path: ['end'],
      message: 'A section ends behind its beginning.',
    });

const kindChoices = [
  ['marker', 'Marker'],
  ['cue point', 'Cue point'],
  ['text', 'Text'],
] as const;

/** Tracks that a mark may stand in: the first is the song's own. */
const homesOf = ({ tracks }: SongView): [string, string][] =>
  tracks.map((t, i) => [t.id, i === 0 ? 'the song' : t.name || `track ${i + 1}`]);

/** A mark as it is typed over. Most belong to the song, which has them in its first track. */
const valuesOf = ({ tracks }: SongView, meters: MeterMap, mark: MarkRow) => ({
  text: mark.text,
  kind: mark.kind,
  place: placeText(meters, mark.atTick),
  end: mark.toTick === undefined ? '' : placeText(meters, mark.toTick),
  track: mark.track || tracks[0]!.id,
  travels: mark.travels,
  timed: mark.anchor === 'time',
});

/** The step that puts a mark as it is typed in the place of the one that was. */
function changeOf(
  mark: MarkRow,
  { kind, text, place, end, track, travels, timed }: z.infer<ReturnType<typeof markSchema>>,
): StepAsked {
  const till = end === undefined ? {} : { toTick: end };
  const anchor = timed ? 'time' : 'bars';
  const come = marksOf({ kind, text, atTick: place, ...till }).map((m) => ({
    ...m,
    travels,
    anchor,
  }));
  const gone = marksOf(mark).map((m) => ({ ...m, ...(mark.track ? { track: mark.track } : {}) }));
  return { operation: 'timing.marks', settings: { gone, come, into: track } };
}

/** A marker, cue point, text or section edited in its row: name, place, kind, track, and whether it is sent. */
export function MarkEditor({ song, meters, mark, done }: Props) {
  const step = useStep(song.id, song.revision);
  const section = mark.kind === 'section';
  const { register, control, handleSubmit, getValues, setValue, formState } = useForm({
    resolver: zodResolver(markSchema(meters, section)),
    mode: 'onChange',
    defaultValues: valuesOf(song, meters, mark),
  });
  const keep = handleSubmit((typed) => step.mutate(changeOf(mark, typed), { onSuccess: done }));
  const toBar = (): void => {
    for (const name of ['place', 'end'] as const) {
      const tick = tickIn(meters, getValues(name));
      if (tick !== undefined)
        setValue(name, placeText(meters, nearestBar(meters, tick)), { shouldValidate: true });
    }
  };
  return (
    <form
      aria-label={`Change ${mark.kind} ${mark.text}`}
      className="flex flex-wrap items-center gap-2 py-1"
      onSubmit={(e) => void keep(e)}
      onKeyDown={(e) => e.key === 'Escape' && done()}
    >
      <input
        autoFocus
        aria-label="Name"
        className={`${box} w-[150px]`}
        maxLength={200}
        {...register('text')}
      />
      {!section && (
        <FormChoice control={control} name="kind" label="Kind" hidden options={kindChoices} />
      )}
      <FormPlace {...{ control, meters }} name="place" label={section ? 'From' : 'Place'} />
      {section && <FormPlace control={control} name="end" label="Until" meters={meters} />}
      {song.tracks.length > 1 && <FormChoice {...home} control={control} options={homesOf(song)} />}
      <Button type="button" onClick={toBar} title="To the nearest bar line">
        To the bar
      </Button>
      <FormCheck control={control} name="timed" label="stays at its time" />
      <FormCheck control={control} name="travels" label="sent" />
      <EditButtons
        wrong={firstError(formState.errors, ['text', 'place', 'end'])}
        busy={step.isPending}
        done={done}
      />
    </form>
  );
}

/** Which track a mark stands in. */
const home = { name: 'track', label: 'in', className: 'max-w-[112px]' } as const;
