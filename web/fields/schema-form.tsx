import { zodResolver } from '@hookform/resolvers/zod';
import { Fragment, useEffect, useRef } from 'react';
import { useForm, type FieldErrors } from 'react-hook-form';
import { Check } from './check.tsx';
import { asSaid, Choice } from './choice.tsx';
import { input, type Field, type FieldProps } from './field.ts';
import { LandingField } from './landing-field.tsx';
import { LaneField, ListField } from './lane-fields.tsx';
import { Note } from './note.tsx';
import { PlayersField } from './players-field.tsx';
import { DefinitionField, LongTextField, ProgramField } from './sound-fields.tsx';
import { TrackField } from './track-field.tsx';
import { NumberField, PartField } from './number-field.tsx';
import { inOurWords, settingsSchema } from './settings-schema.ts';
import { BlankField, SourceField, SourceTracksField } from './source-field.tsx';

interface FormProps extends Pick<FieldProps, 'choices' | 'inRecipe'> {
  readonly fields: Readonly<Record<string, Field>>;
  readonly values: Readonly<Record<string, unknown>>;
  readonly set: (values: Record<string, unknown>) => void;
}

/**
 * The settings of any operation as a form: every kind of field its schema can have. What is typed is shown and
 * tried at once, right or wrong: the form holds it against the schema, and says at a field what is wrong there.
 */
export function SchemaForm({ fields, values, set, choices, inRecipe = false }: FormProps) {
  const errors = useErrors(fields, values);
  return (
    <div className="space-y-2.5">
      {rowsOf(fields).map((row) => {
        const props = row.map(([name, field]): FieldProps & { key: string } => ({
          key: name,
          field: { title: name, ...field },
          value: values[name] ?? field.default,
          set: (value) => set({ ...values, ...without(field, fields), [name]: value }),
          choices,
          beside: values,
          inRecipe,
          wrong: errors[name]?.message?.toString(),
        }));
        return (
          <Fragment key={props[0]!.key}>
            {row.length === 1 ? (
              props.map(({ key, ...rest }) => <FieldRow key={key} {...rest} />)
            ) : (
              <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
                {props.map(({ key, ...rest }) => (
                  <PartField key={key} {...rest} />
                ))}
              </div>
            )}
            <Wrong says={props.find(({ wrong }) => wrong)?.wrong} />
          </Fragment>
        );
      })}
    </div>
  );
}

/** What is wrong, by field: whatever has come to be another is held against its schema, whoever changed it. */
function useErrors(
  fields: FormProps['fields'],
  values: FormProps['values'],
): FieldErrors<Record<string, unknown>> {
  const { setValue, formState } = useForm<Record<string, unknown>>({
    defaultValues: values,
    resolver: zodResolver(settingsSchema(fields), inOurWords),
  });
  const before = useRef(values);
  useEffect(() => {
    for (const name of Object.keys(fields))
      if (values[name] !== before.current[name])
        setValue(name, values[name], { shouldValidate: true });
    before.current = values;
  }, [fields, values, setValue]);
  return formState.errors;
}

/** What is wrong in a row, below it. */
const Wrong = ({ says }: { says: string | undefined }) =>
  says && <p className="!mt-0.5 text-[12px] text-rust">{says}</p>;

/** With another source its tracks are others: what was chosen among those of the one before is let go. */
const without = (
  field: Field,
  fields: Readonly<Record<string, Field>>,
): Record<string, undefined> =>
  field.offers === 'source'
    ? Object.fromEntries(
        Object.keys(fields)
          .filter((name) => fields[name]!.offers === 'source-tracks')
          .map((name) => [name, undefined]),
      )
    : {};

/** Fields by the rows they stand in. */
function rowsOf(fields: Readonly<Record<string, Field>>): [string, Field][][] {
  const rows: [string, Field][][] = [];
  for (const entry of Object.entries(fields)) {
    const before = rows.at(-1);
    if (entry[1].row !== undefined && before?.[0]![1].row === entry[1].row) before.push(entry);
    else rows.push([entry]);
  }
  return rows;
}

function FieldRow(props: FieldProps) {
  const { field, value, set, inRecipe, beside } = props;
  const title = field.title!;
  if (field.type === 'boolean')
    return (
      <Check checked={value === true} set={set} says={field.description}>
        {title}
      </Check>
    );
  if (field.enum) return <ChoiceField {...props} />;
  if (field.offers === 'lane') return <LaneField {...props} />;
  if (field.offers === 'source')
    return inRecipe ? (
      <BlankField title={title} value={value} set={set} />
    ) : (
      <SourceField title={title} value={value} set={set} />
    );
  if (field.offers === 'source-tracks')
    return inRecipe ? null : (
      <SourceTracksField title={title} source={beside?.source} value={value} set={set} />
    );
  if (field.offers === 'landing-place')
    return <LandingField title={title} value={value} set={set} />;
  // Tracks of one song by their ids are named where that song is open.
  if (field.offers === 'onto' || field.offers === 'points') return null;
  if (field.offers === 'track') return inRecipe ? null : <TrackField {...props} />;
  if (field.offers === 'program') return <ProgramField {...props} />;
  if (field.offers === 'definition') return <DefinitionField {...props} />;
  if (field.offers === 'players') return <PlayersField {...props} />;
  if (field.offers === 'lines') return <LongTextField {...props} />;
  if (field.properties)
    return (
      <fieldset>
        <legend className="mb-1">{title}</legend>
        <Note field={field} />
        <div className="mt-1 border-l border-line pl-2.5">
          <SchemaForm
            fields={field.properties}
            values={(value ?? {}) as Record<string, unknown>}
            set={set}
            choices={props.choices}
            inRecipe={inRecipe ?? false}
          />
        </div>
      </fieldset>
    );
  if (field.type === 'array') return <ListField {...props} />;
  const number =
    field.type === 'integer' || field.type === 'number'
      ? field
      : field.anyOf?.find((f) => f.type === 'integer' || f.type === 'number');
  if (number)
    return <NumberField {...props} number={number} optional={field.anyOf !== undefined} />;
  return <TextField {...props} />;
}

const ChoiceField = ({ field, value, set }: FieldProps) => (
  <div>
    <Choice
      label={field.title!}
      value={String(value)}
      options={asSaid(field.enum!)}
      set={set}
      wraps
    />
    <Note field={field} />
  </div>
);

const TextField = ({ field, value, set }: FieldProps) => (
  <label className="block">
    {field.title}
    <input
      className={`${input} mt-0.5 w-full`}
      value={typeof value === 'string' ? value : ''}
      maxLength={field.maxLength}
      onChange={(e) => set(e.target.value)}
    />
    <Note field={field} />
  </label>
);
