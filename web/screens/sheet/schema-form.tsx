import { useId, type ChangeEvent } from 'react';
import { controllerName } from '#core/instruments/controllers.ts';
import { keyName } from '#core/units/units.ts';
import { BlankField, SourceField, SourceTracksField } from '../../fields/source-field.tsx';
import { usePreferences } from '../../state/preferences.ts';

/** A field of an operation's settings, as its JSON Schema describes it. */
export interface Field {
  readonly type?: string;
  readonly title?: string;
  readonly description?: string;
  readonly unit?: string;
  readonly default?: unknown;
  readonly minimum?: number;
  readonly maximum?: number;
  readonly maxLength?: number;
  readonly enum?: readonly string[];
  readonly items?: Field;
  readonly anyOf?: readonly Field[];
  /** Numbers that belong together, as bar and beat do, stand in one row: those that follow each other and name the same. */
  readonly row?: string;
  /** What may be chosen: the lanes that occur, or one of them. */
  readonly offers?: 'lanes' | 'lane' | 'source' | 'source-tracks';
  /** A number that is a key is shown with its name. */
  readonly shows?: 'key';
}

interface FieldProps {
  readonly field: Field;
  readonly value: unknown;
  readonly set: (value: unknown) => void;
  /** What numbers in a list may be chosen from, with their names. */
  readonly choices: readonly (readonly [number | string, string])[];
  /** The other settings. */
  readonly beside?: Readonly<Record<string, unknown>>;
  /** The settings are a recipe's: what comes from outside is asked for when it is run. */
  readonly inRecipe?: boolean;
}

interface FormProps extends Pick<FieldProps, 'choices' | 'inRecipe'> {
  readonly fields: Readonly<Record<string, Field>>;
  readonly values: Readonly<Record<string, unknown>>;
  readonly set: (values: Record<string, unknown>) => void;
}

/** The settings of any operation as a form: every kind of field its schema can have. */
export function SchemaForm({ fields, values, set, choices, inRecipe = false }: FormProps) {
  return (
    <div className="space-y-2.5">
      {rowsOf(fields).map((row) => {
        const props = row.map(([name, field]): FieldProps & { key: string } => ({ key: name, field: { title: name, ...field }, value: values[name] ?? field.default, set: (value) => set({ ...values, [name]: value }), choices, beside: values, inRecipe }));
        if (row.length === 1) return props.map(({ key, ...rest }) => <FieldRow key={key} {...rest} />);
        return (
          <div key={props[0]!.key} className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
            {props.map(({ key, ...rest }) => (
              <PartField key={key} {...rest} />
            ))}
          </div>
        );
      })}
    </div>
  );
}

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

/** One of several numbers in a row. */
function PartField({ field, value, set }: FieldProps) {
  const number = useNumber(field, value, set, false);
  return (
    <label className="flex items-center gap-1.5" title={field.description}>
      {field.title}
      <input className={`${input} num w-[46px] text-right`} {...number} />
    </label>
  );
}

/** A number that is typed: while it is, it may pass through what is out of range; it is brought into it when the field is left. */
function useNumber({ type, minimum = 0, maximum = 127 }: Field, value: unknown, set: (value: unknown) => void, optional: boolean) {
  const clamped = (n: number): number => Math.min(maximum, Math.max(minimum, n));
  return {
    type: 'number',
    value: typeof value === 'number' ? value : '',
    min: minimum,
    max: maximum,
    step: type === 'integer' ? 1 : 'any',
    placeholder: optional ? '–' : undefined,
    onChange: ({ target: { value: text } }: ChangeEvent<HTMLInputElement>): void => {
      if (text === '' && optional) return set(null);
      if (text !== '' && Number.isFinite(Number(text))) set(Number(text));
    },
    onBlur: (): void => {
      if (typeof value === 'number' && clamped(value) !== value) set(clamped(value));
    },
  };
}

function FieldRow(props: FieldProps) {
  const { field } = props;
  if (field.type === 'boolean') return <BooleanField {...props} />;
  if (field.enum) return <ChoiceField {...props} />;
  if (field.offers === 'lane') return <LaneField {...props} />;
  if (field.offers === 'source') return props.inRecipe ? <BlankField title={field.title!} value={props.value} set={props.set} /> : <SourceField title={field.title!} value={props.value} set={props.set} />;
  if (field.offers === 'source-tracks') return props.inRecipe ? null : <SourceTracksField title={field.title!} source={props.beside?.source} value={props.value} set={props.set} />;
  if (field.type === 'array') return <ListField {...props} />;
  const number = field.type === 'integer' || field.type === 'number' ? field : field.anyOf?.find((f) => f.type === 'integer' || f.type === 'number');
  if (number) return <NumberField {...props} number={number} optional={field.anyOf !== undefined} />;
  return <TextField {...props} />;
}

const Note = ({ field }: { field: Field }) => (field.description ? <span className="block text-[12px] text-faint">{field.description}</span> : null);

const input = 'rounded border border-line bg-paper px-1.5 py-0.5';

function BooleanField({ field, value, set }: FieldProps) {
  return (
    <label className="flex items-start gap-2">
      <input type="checkbox" className="mt-1 accent-amber" checked={value === true} onChange={(e) => set(e.target.checked)} />
      <span>
        {field.title}
        <Note field={field} />
      </span>
    </label>
  );
}

function ChoiceField({ field, value, set }: FieldProps) {
  return (
    <label className="block">
      {field.title}
      <select className={`${input} ml-2`} value={String(value)} onChange={(e) => set(e.target.value)}>
        {field.enum!.map((choice) => (
          <option key={choice}>{choice}</option>
        ))}
      </select>
      <Note field={field} />
    </label>
  );
}

function TextField({ field, value, set }: FieldProps) {
  return (
    <label className="block">
      {field.title}
      <input className={`${input} mt-0.5 w-full`} value={typeof value === 'string' ? value : ''} maxLength={field.maxLength} onChange={(e) => set(e.target.value)} />
      <Note field={field} />
    </label>
  );
}

/** A number to type, to step with the arrow keys and, where its range is no longer than a slider, to drag. */
function NumberField({ field, number, value, set, optional }: FieldProps & { number: Field; optional: boolean }) {
  const id = useId();
  const middleC = usePreferences((p) => p.middleC);
  const box = useNumber(number, value, set, optional);
  return (
    <div>
      <div className="flex items-center gap-2">
        <label htmlFor={id} className="min-w-0 flex-1">
          {field.title}
          {field.unit && <span className="text-faint"> ({field.unit})</span>}
          {field.shows === 'key' && typeof value === 'number' && <span className="text-faint"> {keyName(value, middleC)}</span>}
        </label>
        <input id={id} className={`${input} num w-[66px] text-right`} {...box} />
      </div>
      {!optional && box.max - box.min <= 500 && <input type="range" aria-label={`${field.title}, slider`} className="w-full" min={box.min} max={box.max} value={box.value} onChange={box.onChange} />}
      <Note field={field} />
    </div>
  );
}

/** Lanes that are often written anew, besides those that occur. */
const usual = [1, 2, 7, 10, 11, 64];

/** One lane: those that occur in the tracks, and the usual ones. */
function LaneField({ field, value, set, choices }: FieldProps) {
  const known = new Map<number | string, string>(choices.filter(([lane]) => lane !== 'program'));
  for (const number of usual) if (!known.has(number)) known.set(number, `${number} ${controllerName(number)}`);
  if (!known.has('bend')) known.set('bend', 'Pitch bend');
  return (
    <label className="block">
      {field.title}
      <select className={`${input} ml-2`} value={String(value)} onChange={(e) => set(/^\d+$/.test(e.target.value) ? Number(e.target.value) : e.target.value)}>
        {[...known].map(([lane, name]) => (
          <option key={lane} value={lane}>
            {name}
          </option>
        ))}
      </select>
      <Note field={field} />
    </label>
  );
}

/** Whether a choice is of the kind that a list takes. */
const fits = (items: Field | undefined, option: number | string): boolean =>
  typeof option === 'number' ? items?.type === 'integer' || items?.anyOf?.some((f) => f.type === 'integer') === true : items?.anyOf?.some((f) => f.enum?.includes(option)) === true;

/** Several of a set: kinds by their names, controllers among those that occur. */
function ListField({ field, value, set, choices }: FieldProps) {
  const chosen = new Set(Array.isArray(value) ? (value as (string | number)[]) : []);
  const options: (readonly [string | number, string])[] = field.items?.enum ? field.items.enum.map((e) => [e, e] as const) : choices.filter(([o]) => fits(field.items, o));
  const toggle = (option: string | number): void => {
    const next = new Set(chosen);
    if (!next.delete(option)) next.add(option);
    set(options.map(([o]) => o).filter((o) => next.has(o)));
  };
  return (
    <fieldset>
      <legend>{field.title}</legend>
      <Note field={field} />
      <div className="mt-1 flex flex-wrap gap-1">
        {options.length === 0 && <span className="text-[12px] text-faint">None occur in these tracks.</span>}
        {options.map(([option, name]) => (
          <button key={option} type="button" aria-pressed={chosen.has(option)} className="rounded-full border border-line px-2 py-0.5 text-[12px] aria-pressed:border-amber aria-pressed:bg-amber-soft" onClick={() => toggle(option)}>
            {name}
          </button>
        ))}
      </div>
    </fieldset>
  );
}
