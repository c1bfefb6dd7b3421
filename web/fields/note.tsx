import type { Field } from './field.ts';

/** What a field means, below it. */
export const Note = ({ field }: { field: Field }) =>
  field.description ? (
    <span className="block text-[12px] text-faint">{field.description}</span>
  ) : null;
