import { familyNames, programNames } from '#core/instruments/general-midi.ts';
import { useInstruments } from '../api/instruments.ts';
import { Choice } from './choice.tsx';
import { input, type FieldProps } from './field.ts';
import { Note } from './note.tsx';

const asThePart = 0;

/** Programs of General MIDI by their families, from 1. */
const families = familyNames.map(
  (family, n) =>
    [
      family,
      programNames.slice(n * 8, n * 8 + 8).map((name, i) => [n * 8 + i + 1, name] as const),
    ] as const,
);

interface ProgramProps {
  readonly label: string;
  readonly hidden?: boolean;
  readonly wraps?: boolean;
  readonly value: unknown;
  readonly set: (value: number | null) => void;
}

/** A program of General MIDI, or what plays the part. */
export const ProgramChoice = ({ label, value, set, ...shown }: ProgramProps) => (
  <Choice
    {...shown}
    label={label}
    className="max-w-[150px]"
    value={typeof value === 'number' ? value : asThePart}
    options={[]}
    groups={[['', [[asThePart, 'as the part']]], ...families]}
    set={(program) => set(program === asThePart ? null : program)}
  />
);

export const ProgramField = ({ field, value, set }: FieldProps) => (
  <div>
    <ProgramChoice label={field.title!} value={value} set={set} wraps />
    <Note field={field} />
  </div>
);

const none = '';

/** An instrument that is defined by what it can do. */
export function DefinitionField({ field, value, set }: FieldProps) {
  const all = useInstruments().data ?? [];
  const name = (value as { name?: string } | null | undefined)?.name;
  return (
    <Choice
      label={field.title!}
      wraps
      className="max-w-[150px]"
      value={all.find((i) => i.definition.name === name)?.id ?? none}
      options={[[none, 'none'], ...all.map((i) => [i.id, i.definition.name] as const)]}
      set={(id) => set(all.find((i) => i.id === id)?.definition ?? null)}
    />
  );
}

/** Text of several lines. */
export const LongTextField = ({ field, value, set }: FieldProps) => (
  <label className="block">
    {field.title}
    <textarea
      className={`${input} mt-0.5 w-full resize-y font-mono`}
      rows={3}
      spellCheck={false}
      value={typeof value === 'string' ? value : ''}
      maxLength={field.maxLength}
      onChange={(e) => set(e.target.value)}
    />
    <Note field={field} />
  </label>
);
