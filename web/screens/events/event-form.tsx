import { zodResolver } from '@hookform/resolvers/zod';
import { useFieldArray, useForm } from 'react-hook-form';
import { z } from 'zod';
import { parsePosition, tickOf, type MeterMap } from '#core/timing/meter-map.ts';
import { Button } from '../../components/button.tsx';
import { firstError } from '../../fields/first-error.ts';
import type { EventField } from './fields.ts';

export interface Typed {
  readonly atTick: number;
  readonly channel: number | undefined;
  readonly fields: readonly EventField[];
}

interface Props {
  readonly meters: MeterMap;
  readonly position: string;
  /** Undefined for events of no channel. */
  readonly channel: number | undefined;
  readonly fields: readonly EventField[];
  readonly verb: string;
  /** Gives what is wrong, where something is. */
  readonly done: (typed: Typed) => string | undefined;
  readonly cancel: () => void;
}

const box = 'rounded border border-amber bg-sheet px-1 py-0 text-[12.5px]';

/** Place and channel as they are typed; what the values may be is the event's own to say. */
const eventSchema = (meters: MeterMap, onChannel: boolean) =>
  z.object({
    place: z.string().transform((text, context): number => {
      const at = parsePosition(text);
      const tick = at && tickOf(meters, at);
      if (tick === undefined)
        context.addIssue({
          code: 'custom',
          message: `${text || 'Nothing'} is no place: bar.beat.tick, beats and ticks that the bar has`,
        });
      return tick ?? z.NEVER;
    }),
    channel: onChannel
      ? z
          .string()
          .regex(/^ *([1-9]|1[0-6]) *$/, 'Channel: a whole number from 1 to 16')
          .transform(Number)
      : z.string().transform(() => undefined),
    values: z.array(z.object({ value: z.string() })),
  });

/** An event being typed: its place, its channel and its values by name. Enter keeps it, Escape does not. */
export function EventForm({ meters, position, channel, fields, verb, done, cancel }: Props) {
  const { register, control, handleSubmit, setError, formState } = useForm({
    resolver: zodResolver(eventSchema(meters, channel !== undefined)),
    defaultValues: {
      place: position,
      channel: channel === undefined ? '' : String(channel),
      values: fields.map(({ value }) => ({ value })),
    },
  });
  const { fields: values } = useFieldArray({ control, name: 'values' });
  const keep = handleSubmit((typed) => {
    const wrong = done({
      atTick: typed.place,
      channel: typed.channel,
      fields: fields.map((f, n) => ({ ...f, value: typed.values[n]!.value })),
    });
    if (wrong) setError('root', { message: wrong });
  });
  const wrong = firstError(formState.errors, ['place', 'channel']);
  return (
    <form
      noValidate
      className="flex flex-wrap items-center gap-2"
      onSubmit={(e) => void keep(e)}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Escape') cancel();
      }}
      onClick={(e) => e.stopPropagation()}
    >
      <label className="flex items-center gap-1">
        At
        <input
          autoFocus
          className={`${box} num w-[104px]`}
          onFocus={(e) => e.target.select()}
          {...register('place')}
        />
      </label>
      {channel !== undefined && (
        <label className="flex items-center gap-1">
          Channel
          <input className={`${box} num w-[34px]`} inputMode="numeric" {...register('channel')} />
        </label>
      )}
      {values.map(({ id }, n) => (
        <ValueInput key={id} of={fields[n]!} field={register(`values.${n}.value`)} />
      ))}
      <Button type="submit" kind="next" className="!py-0">
        {verb}
      </Button>
      <Button className="!py-0" onClick={cancel}>
        Not now
      </Button>
      {wrong && <Wrong says={wrong} />}
    </form>
  );
}

const ValueInput = ({
  of: { name, min, max, fine, wide, key },
  field,
}: {
  of: EventField;
  field: object;
}) => (
  <label className="flex items-center gap-1">
    {name}
    <input
      className={`${box} ${wide ? 'w-[260px]' : 'num w-[64px]'}`}
      type={min === undefined || key ? 'text' : 'number'}
      step={fine ? 'any' : 1}
      min={min}
      max={max}
      {...field}
    />
  </label>
);

const Wrong = ({ says }: { says: string }) => (
  <span role="alert" className="text-rust">
    {says}
  </span>
);
