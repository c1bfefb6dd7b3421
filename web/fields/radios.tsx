import { RadioGroup } from 'radix-ui';
import { useId, type ReactNode } from 'react';

export interface RadioOption<T extends string> {
  readonly value: T;
  readonly says: ReactNode;
  /** Below it: what it means. */
  readonly about?: ReactNode;
}

interface Props<T extends string> {
  readonly label: string;
  readonly value: T | undefined;
  readonly options: readonly RadioOption<T>[];
  readonly set: (value: T) => void;
  readonly className?: string;
  /** Of each option, chosen or not. */
  readonly frame?: (chosen: boolean) => string;
}

/** One of a few that are all seen. */
export function Radios<T extends string>({
  label,
  value,
  options,
  set,
  className = 'space-y-1',
  frame = () => '',
}: Props<T>) {
  const id = useId();
  return (
    <RadioGroup.Root
      aria-label={label}
      value={value ?? null}
      onValueChange={(said) => set(said as T)}
      className={className}
    >
      {options.map((option) => (
        <div
          key={option.value}
          className={`flex items-start gap-2 ${frame(option.value === value)}`}
        >
          <RadioGroup.Item
            id={`${id}${option.value}`}
            value={option.value}
            className="mt-[3px] grid size-[14px] shrink-0 place-items-center rounded-full border border-stitch bg-paper data-[state=checked]:border-amber"
          >
            <RadioGroup.Indicator className="size-[8px] rounded-full bg-amber" />
          </RadioGroup.Item>
          <label htmlFor={`${id}${option.value}`} className="min-w-0 flex-1">
            {option.says}
            {option.about}
          </label>
        </div>
      ))}
    </RadioGroup.Root>
  );
}
