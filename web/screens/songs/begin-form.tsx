import { zodResolver } from '@hookform/resolvers/zod';
import { useQueryClient } from '@tanstack/react-query';
import { Dialog } from 'radix-ui';
import { useRef, useState } from 'react';
import { useForm, type UseFormReturn } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { z } from 'zod';
import { keySignatureText } from '#core/song/key-names.ts';
import { frameRateNames } from '#core/timing/timecode.ts';
import { beginSchema } from '#core/work/begin.ts';
import { problemOf } from '../../api/client.ts';
import { beginSong } from '../../api/upload.ts';
import { Button } from '../../components/button.tsx';
import { asSaid } from '../../fields/choice.tsx';
import { input } from '../../fields/field.ts';
import { firstError } from '../../fields/first-error.ts';
import { FormChoice } from '../../fields/form-parts.tsx';
import { usePendingList } from '../../state/pending-list.ts';

/** The form's own fields: choices are words, and an empty timecode is none. */
const formSchema = z.object({
  title: beginSchema.shape.title,
  bpm: z.coerce.number().min(4, 'A tempo from 4 BPM on').max(10_000, 'A tempo up to 10,000 BPM'),
  numerator: z.coerce
    .number()
    .int()
    .min(1, 'A meter of 1 beat or more')
    .max(255, 'A meter of at most 255 beats'),
  denominator: z.enum(['1', '2', '4', '8', '16', '32']),
  key: z.string(),
  bars: z.coerce.number().int().min(1, 'One bar or more').max(10_000, 'At most 10,000 bars'),
  timecode: z.string().trim().max(20),
  rate: z.enum(frameRateNames),
  ppq: z.enum(['96', '120', '192', '240', '384', '480', '960', '1920']),
});
type FormIn = z.input<typeof formSchema>;
type FormOut = z.output<typeof formSchema>;

const keys = [
  ['', 'None stated'] as const,
  ...[false, true].flatMap((minor) =>
    Array.from({ length: 15 }, (_, n) => n - 7).map(
      (sharps) => [`${sharps}${minor ? ' minor' : ''}`, keySignatureText(sharps, minor)] as const,
    ),
  ),
];

const asked = ({ key, timecode, rate, denominator, ppq, ...rest }: FormOut): object => ({
  ...rest,
  denominator: Number(denominator),
  ppq: Number(ppq),
  key: key === '' ? null : { sharps: parseInt(key, 10), minor: key.endsWith('minor') },
  timecode: timecode === '' ? null : { address: timecode, rate },
});

/** What a song that is begun with nothing is to be. */
export function BeginForm() {
  const navigate = useNavigate();
  const client = useQueryClient();
  const [problem, setProblem] = useState<string>();
  const [list, setList] = useState<File>();
  const wait = usePendingList((s) => s.wait);
  const { register, control, handleSubmit, formState } = useForm<FormIn, unknown, FormOut>({
    resolver: zodResolver(formSchema),
    defaultValues: {
      title: 'Untitled',
      bpm: 120,
      numerator: 4,
      denominator: '4',
      key: '',
      bars: 32,
      timecode: '',
      rate: '25',
      ppq: '480',
    },
  });
  const begin = handleSubmit(async (form) => {
    try {
      const id = await beginSong(asked(form));
      void client.invalidateQueries({ queryKey: ['songs'] });
      if (list)
        wait({ song: id, name: list.name, bytes: new Uint8Array(await list.arrayBuffer()) });
      void navigate(list ? `/songs/${id}/timing` : `/songs/${id}`);
    } catch (error) {
      const { message, expected, found } = problemOf(error);
      setProblem(`${message}: expected ${expected}; found ${found}.`);
    }
  });
  const wrong =
    firstError(formState.errors, ['title', 'bpm', 'numerator', 'bars', 'timecode']) ?? problem;
  return (
    <form onSubmit={(e) => void begin(e)} className="space-y-2.5" noValidate>
      <label className="block">
        Name
        <input className={`${input} mt-0.5 w-full`} maxLength={100} {...register('title')} />
      </label>
      <TimeFields register={register} control={control} />
      <ListChooser list={list} choose={setList} />
      {wrong && (
        <p role="alert" className="border-l-3 border-rust pl-2">
          {wrong}
        </p>
      )}
      <div className="flex gap-2 pt-1">
        <Button kind="next" type="submit" disabled={formState.isSubmitting}>
          Begin
        </Button>
        <Dialog.Close asChild>
          <Button>Not now</Button>
        </Dialog.Close>
      </div>
    </form>
  );
}

const number = `${input} num w-[76px]`;

/** Tempo, meter, length, key, resolution and timecode. */
function TimeFields({
  register,
  control,
}: Pick<UseFormReturn<FormIn, unknown, FormOut>, 'register' | 'control'>) {
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <label className="flex items-center gap-2">
          BPM <input className={number} inputMode="decimal" {...register('bpm')} />
        </label>
        <span className="flex items-center gap-1">
          <label className="flex items-center gap-2">
            Meter{' '}
            <input
              className={`${input} num w-[52px]`}
              inputMode="numeric"
              {...register('numerator')}
            />
          </label>
          /
          <FormChoice
            control={control}
            name="denominator"
            label="Beat"
            hidden
            options={asSaid(['1', '2', '4', '8', '16', '32'])}
          />
        </span>
        <label className="flex items-center gap-2">
          Bars <input className={number} inputMode="numeric" {...register('bars')} />
        </label>
      </div>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <FormChoice control={control} name="key" label="Key" options={keys} />
        <FormChoice
          control={control}
          name="ppq"
          label="Ticks a quarter"
          options={asSaid(['96', '120', '192', '240', '384', '480', '960', '1920'])}
        />
      </div>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <label className="flex items-center gap-2">
          Timecode at bar 1
          <input
            className={`${input} num w-[112px]`}
            placeholder="hh:mm:ss:ff"
            {...register('timecode')}
          />
        </label>
        <FormChoice control={control} name="rate" label="at" options={asSaid(frameRateNames)} />
      </div>
    </>
  );
}

/** A file whose markers or map the song is begun with. */
function ListChooser({
  list,
  choose,
}: {
  list: File | undefined;
  choose: (file: File | undefined) => void;
}) {
  const chooser = useRef<HTMLInputElement>(null);
  return (
    <div className="flex items-center gap-2">
      <Button onClick={() => chooser.current?.click()}>Places of a list …</Button>
      <span className="min-w-0 truncate text-[12.5px] text-faint">
        {list ? list.name : 'Markers (CSV), an edit list, or the map of a MIDI file'}
      </span>
      <input
        ref={chooser}
        type="file"
        hidden
        accept=".mid,.midi,.kar,.rmi,.smf,.csv,.edl,.txt"
        aria-label="File with a map or markers"
        data-testid="begin-list"
        onChange={(e) => choose(e.target.files?.[0])}
      />
    </div>
  );
}
