import { zodResolver } from '@hookform/resolvers/zod';
import { Controller, useForm } from 'react-hook-form';
import { z } from 'zod';
import type { SongView } from '#contracts/songs.ts';
import type { MeterMap } from '#core/timing/meter-map.ts';
import { useStep } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { Check } from '../../fields/check.tsx';
import { Choice } from '../../fields/choice.tsx';
import { firstError } from '../../fields/first-error.ts';
import { PlaceField, box, nearestBar, placeText, tickIn } from '../../fields/place-field.tsx';
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
    })
    .refine(({ place, end }) => end === undefined || end > place, {
      path: ['end'],
      message: 'A section ends behind its beginning.',
    });

/** A marker, cue point, text or section edited in its row: name, place, kind, track, and whether it is sent. */
export function MarkEditor({ song, meters, mark, done }: Props) {
  const step = useStep(song.id, song.revision);
  const section = mark.kind === 'section';
  const said = (tick: number): string => placeText(meters, tick);
  const { register, control, handleSubmit, getValues, setValue, formState } = useForm({
    resolver: zodResolver(markSchema(meters, section)),
    mode: 'onChange',
    // Most belong to the song, which has them in its first track.
    defaultValues: {
      text: mark.text,
      kind: mark.kind,
      place: said(mark.atTick),
      end: mark.toTick === undefined ? '' : said(mark.toTick),
      track: mark.track || song.tracks[0]!.id,
      travels: mark.travels,
    },
  });
  const keep = handleSubmit(({ kind, text, place, end, track, travels }) => {
    const come = marksOf({
      kind,
      text,
      atTick: place,
      ...(end === undefined ? {} : { toTick: end }),
    }).map((m) => ({ ...m, travels }));
    const gone = marksOf(mark).map((m) => ({ ...m, ...(mark.track ? { track: mark.track } : {}) }));
    step.mutate(
      { operation: 'timing.marks', settings: { gone, come, into: track } },
      { onSuccess: done },
    );
  });
  const toBar = (): void => {
    for (const name of ['place', 'end'] as const) {
      const tick = tickIn(meters, getValues(name));
      if (tick !== undefined)
        setValue(name, said(nearestBar(meters, tick)), { shouldValidate: true });
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
        <Controller
          control={control}
          name="kind"
          render={({ field }) => (
            <Choice
              label="Kind"
              hidden
              value={field.value}
              options={[
                ['marker', 'Marker'],
                ['cue point', 'Cue point'],
                ['text', 'Text'],
              ]}
              set={field.onChange}
            />
          )}
        />
      )}
      <Controller
        control={control}
        name="place"
        render={({ field }) => (
          <PlaceField
            label={section ? 'From' : 'Place'}
            value={field.value}
            set={field.onChange}
            meters={meters}
          />
        )}
      />
      {section && (
        <Controller
          control={control}
          name="end"
          render={({ field }) => (
            <PlaceField label="Until" value={field.value} set={field.onChange} meters={meters} />
          )}
        />
      )}
      {song.tracks.length > 1 && (
        <Controller
          control={control}
          name="track"
          render={({ field }) => (
            <Choice
              label="in"
              className="max-w-[112px]"
              value={field.value}
              options={song.tracks.map(
                (t, i) => [t.id, i === 0 ? 'the song' : t.name || `track ${i + 1}`] as const,
              )}
              set={field.onChange}
            />
          )}
        />
      )}
      <Button type="button" onClick={toBar} title="To the nearest bar line">
        To the bar
      </Button>
      <Controller
        control={control}
        name="travels"
        render={({ field }) => (
          <Check checked={field.value} set={field.onChange}>
            sent
          </Check>
        )}
      />
      <EditButtons
        wrong={firstError(formState.errors, ['text', 'place', 'end'])}
        busy={step.isPending}
        done={done}
      />
    </form>
  );
}
