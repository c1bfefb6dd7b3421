import { useMemo, type KeyboardEvent } from 'react';
import { useForm, type UseFormRegister } from 'react-hook-form';
import { count } from '../../components/text.ts';
import { Button } from '../../components/button.tsx';
import { usePreferences } from '../../state/preferences.ts';
import type { EditSeveral } from '#core/operations/events/edit-several/settings.ts';
import { severalAsked, severalOf, type Several } from './several.ts';
import type { Listed } from './use-event-acts.ts';

interface Props {
  readonly list: Listed;
  readonly chosen: ReadonlySet<number>;
  readonly done: (asked: Omit<EditSeveral, 'rows'>, of: Several) => void;
  readonly close: () => void;
}

const box =
  'num rounded border border-amber bg-sheet px-1 py-0 text-[12.5px] placeholder:text-faint';

/** Several events, given the same: what is left blank stays as each has it. Enter does it, Escape does not. */
export function EditSeveralForm({ list, chosen, done, close }: Props) {
  const middleC = usePreferences((p) => p.middleC);
  const { encoding } = list.song;
  const as = useMemo(() => ({ encoding, middleC }), [encoding, middleC]);
  const several = useMemo(() => severalOf(list, chosen, as), [list, chosen, as]);
  const { register, handleSubmit, setError, formState } = useForm({
    defaultValues: { channel: '', values: several.fields.map(() => '') },
  });
  const submit = handleSubmit((typed) => {
    const asked = severalAsked(several, typed, as);
    if ('wrong' in asked) setError('root', { message: asked.wrong });
    else done(asked, several);
  });
  const onKeyDown = (e: KeyboardEvent): void => {
    e.stopPropagation();
    if (e.key === 'Escape') close();
  };
  return (
    <section
      aria-label="Edit several events"
      className="mb-1 rounded border border-amber bg-amber-soft px-2 py-1"
    >
      <form
        noValidate
        className="flex flex-wrap items-center gap-2"
        onSubmit={(e) => void submit(e)}
        onKeyDown={onKeyDown}
      >
        <span className="font-medium">{count(chosen.size, 'event')}</span>
        <SeveralFields several={several} register={register} />
        {several.fields.length === 0 && several.channel === undefined ? (
          <span>They are of several kinds: choose events of one kind.</span>
        ) : (
          <Button type="submit" kind="next" className="!py-0">
            Keep
          </Button>
        )}
        <Button className="!py-0" onClick={close}>
          Not now
        </Button>
        <span role="alert" className="text-rust">
          {formState.errors.root?.message}
        </span>
      </form>
      <p className="text-[12px] text-faint">
        Blank stays as each has it; +5 or -5 is so much more or less.
      </p>
    </section>
  );
}

/** A box for what all of them have: blank it stays as each has it. */
const SeveralFields = ({
  several,
  register,
}: {
  several: Several;
  register: UseFormRegister<{ channel: string; values: string[] }>;
}) => (
  <>
    {several.channel !== undefined && (
      <label className="flex items-center gap-1">
        Channel
        <input
          autoFocus={several.fields.length === 0}
          className={`${box} w-[62px]`}
          placeholder={several.channel}
          {...register('channel')}
        />
      </label>
    )}
    {several.fields.map((field, n) => (
      <label key={field.name} className="flex items-center gap-1">
        {field.name}
        <input
          autoFocus={n === several.fields.length - 1}
          className={`${box} ${field.wide ? 'w-[260px]' : 'w-[74px]'}`}
          placeholder={field.value}
          {...register(`values.${n}`)}
        />
      </label>
    ))}
  </>
);
