import { ToggleGroup } from 'radix-ui';

/** Any number of several: each is pressed or not. */
export function Pills({
  label,
  chosen,
  options,
  set,
}: {
  label: string;
  chosen: readonly string[];
  options: readonly (readonly [value: string, says: string])[];
  set: (chosen: string[]) => void;
}) {
  return (
    <ToggleGroup.Root
      type="multiple"
      aria-label={label}
      value={[...chosen]}
      onValueChange={set}
      rovingFocus={false}
      className="flex flex-wrap gap-1"
    >
      {options.map(([value, says]) => (
        <ToggleGroup.Item
          key={value}
          value={value}
          className="rounded-full border border-line px-2 py-0.5 text-[12px] aria-pressed:border-amber aria-pressed:bg-amber-soft"
        >
          {says}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
