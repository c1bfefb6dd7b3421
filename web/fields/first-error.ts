import type { FieldErrors, FieldValues } from 'react-hook-form';

/** What is wrong first, in the order in which the fields stand; undefined where nothing is. */
export function firstError<T extends FieldValues>(
  errors: FieldErrors<T>,
  order: readonly (keyof T & string)[],
): string | undefined {
  const found = order
    .map((name) => errors[name]?.message)
    .find((message) => typeof message === 'string');
  return (found as string | undefined) ?? errors.root?.message;
}
