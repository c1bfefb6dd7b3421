import { Controller, type Control, type FieldPath, type FieldValues } from 'react-hook-form';
import type { MeterMap } from '#core/timing/meter-map.ts';
import { Check } from './check.tsx';
import { Choice, type Option } from './choice.tsx';
import { PlaceField } from './place-field.tsx';

/** Of which form a part is, and which of its fields it sets. */
interface Of<T extends FieldValues, U> {
  readonly control: Control<T, unknown, U>;
  readonly name: FieldPath<T>;
  readonly label: string;
}

/** A place in a form. */
export const FormPlace = <T extends FieldValues, U>({
  control,
  name,
  label,
  meters,
}: Of<T, U> & { readonly meters: MeterMap }) => (
  <Controller
    control={control}
    name={name}
    render={({ field }) => (
      <PlaceField label={label} value={field.value} set={field.onChange} meters={meters} />
    )}
  />
);

interface FormChoiceProps<T extends FieldValues, U> extends Of<T, U> {
  readonly options: readonly Option<string>[];
  readonly hidden?: boolean;
  readonly className?: string;
  /** What else goes with a choice; it sets the field itself. */
  readonly set?: (value: string) => void;
}

/** One of several in a form. */
export const FormChoice = <T extends FieldValues, U>({
  control,
  name,
  set,
  ...rest
}: FormChoiceProps<T, U>) => (
  <Controller
    control={control}
    name={name}
    render={({ field }) => (
      <Choice<string> {...rest} value={field.value} set={set ?? field.onChange} />
    )}
  />
);

/** Something in a form that is so or not. */
export const FormCheck = <T extends FieldValues, U>({ control, name, label }: Of<T, U>) => (
  <Controller
    control={control}
    name={name}
    render={({ field }) => (
      <Check checked={field.value} set={field.onChange}>
        {label}
      </Check>
    )}
  />
);
