import { controllerName } from '#core/instruments/controllers.ts';
import { Choice } from './choice.tsx';
import type { Field, FieldProps } from './field.ts';
import { Note } from './note.tsx';
import { Pills } from './pills.tsx';

/** Lanes that are often written anew, besides those that occur. */
const usual = [1, 2, 7, 10, 11, 64];

/** One lane: those that occur in the tracks, and the usual ones. */
export function LaneField({ field, value, set, choices }: FieldProps) {
  const known = new Map<number | string, string>(choices.filter(([lane]) => lane !== 'program'));
  for (const number of usual)
    if (!known.has(number)) known.set(number, `${number} ${controllerName(number)}`);
  if (!known.has('bend')) known.set('bend', 'Pitch bend');
  return (
    <div>
      <Choice
        label={field.title!}
        value={value as number | string}
        options={[...known]}
        set={set}
      />
      <Note field={field} />
    </div>
  );
}

/** Whether a choice is of the kind that a list takes. */
const fits = (items: Field | undefined, option: number | string): boolean =>
  typeof option === 'number'
    ? items?.type === 'integer' || items?.anyOf?.some((f) => f.type === 'integer') === true
    : items?.anyOf?.some((f) => f.enum?.includes(option)) === true;

/** Several of a set: kinds by their names, controllers among those that occur. */
export function ListField({ field, value, set, choices }: FieldProps) {
  const chosen = Array.isArray(value) ? (value as (string | number)[]) : [];
  const options: (readonly [string | number, string])[] = field.items?.enum
    ? field.items.enum.map((e) => [e, e] as const)
    : choices.filter(([o]) => fits(field.items, o));
  return (
    <div>
      <p>{field.title}</p>
      <Note field={field} />
      <div className="mt-1">
        {options.length === 0 && (
          <span className="text-[12px] text-faint">None occur in these tracks.</span>
        )}
        <Pills
          label={field.title!}
          chosen={chosen.map(String)}
          options={options.map(([o, says]) => [String(o), says] as const)}
          set={(now) => set(options.map(([o]) => o).filter((o) => now.includes(String(o))))}
        />
      </div>
    </div>
  );
}
