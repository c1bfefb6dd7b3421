import { useState } from 'react';
import { input } from './field.ts';

/**
 * A number that is typed or stepped; empty, where that means something, it is null. What is out of range
 * waits until it is in it.
 */
export function NumberBox({
  label,
  value,
  set,
  min,
  max,
  empty,
  whole = true,
  unit,
}: {
  readonly label: string;
  readonly value: number | null;
  readonly set: (value: number | null) => void;
  readonly min: number;
  readonly max: number;
  /** What an empty box means; left out, it has always a number. */
  readonly empty?: string;
  readonly whole?: boolean;
  readonly unit?: string;
}) {
  const [text, setText] = useState<string>();
  const keep = (said: string): void => {
    setText(said);
    const number = Number(said);
    if (said.trim() === '') {
      if (empty !== undefined) set(null);
    } else if (number >= min && number <= max && (!whole || Number.isInteger(number))) set(number);
  };
  return (
    <span className="inline-flex items-baseline gap-1.5">
      <input
        type="number"
        aria-label={label}
        className={`${input} num w-[86px]`}
        min={min}
        max={max}
        step={whole ? 1 : 'any'}
        placeholder={empty ?? ''}
        value={text ?? value ?? ''}
        onChange={(e) => keep(e.target.value)}
        onBlur={() => setText(undefined)}
      />
      {unit && <span className="text-[12.5px] text-faint">{unit}</span>}
    </span>
  );
}
