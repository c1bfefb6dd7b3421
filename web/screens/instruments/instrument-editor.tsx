import { zodResolver } from '@hookform/resolvers/zod';
import { useForm, useWatch, type Control } from 'react-hook-form';
import type { InstrumentView } from '#contracts/instruments.ts';
import { clefs, type InstrumentDefinition } from '#core/instruments/definition.ts';
import { useRemoveInstrument, useSaveInstrument } from '../../api/instruments.ts';
import { Button } from '../../components/button.tsx';
import { asSaid, type Option } from '../../fields/choice.tsx';
import { input } from '../../fields/field.ts';
import { FormCheck, FormChoice } from '../../fields/form-parts.tsx';
import { usePreferences } from '../../state/preferences.ts';
import { candidates } from '../../tracks/candidates.ts';
import { definitionOf, formOf, formSchema, type InstrumentForm } from './form.ts';
import { RangeBar } from './range-bar.tsx';

const heard: readonly Option<string>[] = candidates.map(
  (c) => [`${c.drums ? 'kit' : 'program'} ${c.program}`, `${c.program} ${c.name}`] as const,
);

/** An instrument by what it can do. One that comes along is saved as one's own. */
export function InstrumentEditor({
  instrument,
  saved,
}: {
  instrument: InstrumentView;
  saved: (id: string) => void;
}) {
  const { id, along, definition } = instrument;
  const middleC = usePreferences((p) => p.middleC);
  const save = useSaveInstrument();
  const remove = useRemoveInstrument();
  const { register, control, handleSubmit, formState } = useForm<
    InstrumentForm,
    unknown,
    InstrumentDefinition
  >({
    resolver: zodResolver(formSchema(definition, middleC)) as never,
    defaultValues: formOf(definition, middleC),
  });
  const asNew = along || id === '';
  const keep = handleSubmit((made) =>
    save.mutate(
      { id: asNew ? undefined : id, definition: made },
      { onSuccess: ({ id: kept }) => saved(kept) },
    ),
  );
  const changed = formState.isDirty;
  return (
    <form onSubmit={(e) => void keep(e)} noValidate className="mx-auto max-w-[860px] space-y-5">
      <div className="flex items-center gap-3">
        <input
          aria-label="Name"
          className="min-w-0 flex-1 rounded border border-transparent bg-transparent text-[19px] font-semibold hover:border-line focus:border-amber"
          maxLength={100}
          {...register('name')}
        />
        {!asNew && (
          <Button kind="harm" disabled={remove.isPending} onClick={() => remove.mutate(instrument)}>
            Remove
          </Button>
        )}
        <Button
          kind={changed || asNew ? 'next' : 'plain'}
          type="submit"
          disabled={save.isPending || (!asNew && !changed)}
        >
          {along ? 'Save as your own' : 'Save'}
        </Button>
      </div>
      <Fault says={formState.errors.name?.message} />
      <Range control={control} register={register} definition={definition} />
      <Written control={control} register={register} />
      <Chosen control={control} register={register} />
      <Names register={register} />
    </form>
  );
}

type Part = Pick<ReturnType<typeof useForm<InstrumentForm>>, 'register'> & {
  readonly control: Control<InstrumentForm, unknown, InstrumentDefinition>;
};

const heading = 'seam mb-2 pb-1 text-[12px] text-faint';
const narrow = `${input} num w-[62px]`;

/** Which keys it plays, seen as they are typed; and how many at once. */
function Range({ control, register, definition }: Part & { definition: InstrumentDefinition }) {
  const middleC = usePreferences((p) => p.middleC);
  const typed = useWatch({ control }) as InstrumentForm;
  const made = definitionOf({ ...typed, name: typed.name || 'x' }, definition, middleC);
  return (
    <section aria-label="Range">
      <h2 className={heading}>What it can play</h2>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
        <span className="flex items-center gap-1.5">
          Keys <input aria-label="Lowest key" className={narrow} {...register('lowest')} /> to
          <input aria-label="Highest key" className={narrow} {...register('highest')} />
        </span>
        <span className="flex items-center gap-1.5">
          at ease
          <input aria-label="Lowest at ease" className={narrow} {...register('easyLowest')} /> to
          <input aria-label="Highest at ease" className={narrow} {...register('easyHighest')} />
        </span>
        <label className="flex items-center gap-1.5">
          Notes at once <input className={narrow} placeholder="any" {...register('voices')} />
        </label>
      </div>
      {made.ok ? (
        <RangeBar playable={made.value.playable} comfortable={made.value.comfortable} />
      ) : (
        <p className="mt-1 text-[12.5px] text-rust">{made.why}</p>
      )}
    </section>
  );
}

const Written = ({ control, register }: Part) => (
  <section aria-label="As written">
    <h2 className={heading}>How it is written</h2>
    <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
      <label className="flex items-center gap-1.5">
        Sounds <input className={narrow} {...register('transposition')} /> semitones from what is
        written
      </label>
      <FormChoice control={control} name="clef" label="Clef" options={asSaid(clefs)} />
    </div>
  </section>
);

/** What it is heard with here, and what chooses it where it is played. */
function Chosen({ control, register }: Part) {
  const sends = useWatch({ control, name: 'sends' });
  return (
    <section aria-label="Program">
      <h2 className={heading}>What chooses it</h2>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
        <FormChoice control={control} name="heard" label="Heard here with" options={heard} />
        <FormCheck
          control={control}
          name="sends"
          label="its device chooses it by another program or bank"
        />
        {sends && (
          <span className="flex items-center gap-1.5">
            Program <input aria-label="Sent program" className={narrow} {...register('program')} />
            bank
            <input
              aria-label="Sent bank"
              className={narrow}
              placeholder="none"
              title="Controllers 0 and 32, such as 81/2"
              {...register('bank')}
            />
          </span>
        )}
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-x-5 gap-y-2">
        <label className="flex items-center gap-1.5">
          Maker <input className={`${input} w-[150px]`} maxLength={100} {...register('maker')} />
        </label>
        <label className="flex items-center gap-1.5">
          Model <input className={`${input} w-[150px]`} maxLength={100} {...register('model')} />
        </label>
        <label className="flex items-center gap-1.5">
          Number it shows <input className={narrow} maxLength={100} {...register('label')} />
        </label>
      </div>
    </section>
  );
}

const Names = ({ register }: Pick<Part, 'register'>) => (
  <section aria-label="Names">
    <h2 className={heading}>What is called what</h2>
    <div className="grid grid-cols-2 gap-5">
      <label className="block">
        Controllers, one a line
        <textarea
          className={`${input} num mt-0.5 w-full`}
          rows={6}
          placeholder={'1 Vibrato\nNRPN 300 Air: 0 none; 64 half'}
          {...register('controllers')}
        />
      </label>
      <label className="block">
        Keys, one a line
        <textarea
          className={`${input} num mt-0.5 w-full`}
          rows={6}
          placeholder={'36 Kick\nC♯2 Side stick'}
          {...register('keys')}
        />
      </label>
    </div>
    <label className="mt-2 block">
      Where these values come from
      <input className={`${input} mt-0.5 w-full`} maxLength={500} {...register('source')} />
    </label>
  </section>
);

const Fault = ({ says }: { says: string | undefined }) =>
  says !== undefined && (
    <p role="alert" className="border-l-3 border-rust pl-2">
      {says}
    </p>
  );
