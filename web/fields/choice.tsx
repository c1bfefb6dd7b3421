import { Check as Tick, ChevronDown } from 'lucide-react';
import { Select } from 'radix-ui';
import { useId, type KeyboardEvent } from 'react';

/** What can be chosen: a value and what it is called. */
export type Option<T extends string | number> = readonly [value: T, says: string];

interface Props<T extends string | number> {
  readonly label: string;
  /** The label is heard and not seen. */
  readonly hidden?: boolean;
  readonly value: T | undefined;
  readonly options: readonly Option<T>[];
  /** Options under headings, in place of those that stand by themselves. */
  readonly groups?: readonly (readonly [heading: string, options: readonly Option<T>[]])[];
  readonly set: (value: T) => void;
  /** Said where nothing is chosen. */
  readonly placeholder?: string;
  readonly disabled?: boolean;
  /** What does not fit beside its label goes below it, and breaks. */
  readonly wraps?: boolean;
  readonly title?: string | undefined;
  readonly className?: string;
}

/** Radix takes no empty values. */
const marked = (value: string | number): string => `=${value}`;

const item =
  'relative cursor-default rounded py-1 pr-6 pl-2 text-[13px] outline-none select-none data-highlighted:bg-amber-soft';

/**
 * One of several. Closed, the arrow keys go from one to the next at once and letters find; Enter, Space or
 * a press opens the list.
 */
export function Choice<T extends string | number>({
  label,
  hidden = false,
  value,
  options,
  groups,
  set,
  placeholder,
  disabled = false,
  wraps = false,
  title,
  className = '',
}: Props<T>) {
  const id = useId();
  const all = groups ? groups.flatMap(([, list]) => list) : options;
  const choose = (said: string): void => {
    const found = all.find(([v]) => marked(v) === said);
    if (found) set(found[0]);
  };
  const step = (e: KeyboardEvent): void => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[e.key];
    if (by === undefined || e.altKey) return;
    // Radix would open the list; a choice that is one press away stays one press away.
    e.preventDefault();
    e.stopPropagation();
    const next = all[all.findIndex(([v]) => v === value) + by];
    if (next) set(next[0]);
  };
  return (
    <span
      className={`inline-flex max-w-full min-w-0 items-center gap-x-1.5 ${wraps ? 'flex-wrap gap-y-0.5' : ''}`}
    >
      {!hidden && (
        <span id={id} className={wraps ? '' : 'shrink-0'}>
          {label}
        </span>
      )}
      <Select.Root
        value={value === undefined ? '' : marked(value)}
        onValueChange={choose}
        disabled={disabled}
      >
        <Select.Trigger
          {...(hidden ? { 'aria-label': label } : { 'aria-labelledby': id })}
          title={title}
          className={`inline-flex min-w-0 items-center justify-between gap-1 rounded border border-line bg-paper px-1.5 py-0.5 text-left disabled:opacity-55 data-placeholder:text-faint ${wraps ? '' : 'whitespace-nowrap'} ${className}`}
          onKeyDown={step}
        >
          <span className={`min-w-0 ${wraps ? '' : 'truncate'}`}>
            <Select.Value placeholder={placeholder} />
          </span>
          <ChevronDown size={12} aria-hidden className="shrink-0 text-faint" />
        </Select.Trigger>
        <Choices options={options} groups={groups} />
      </Select.Root>
    </span>
  );
}

const Items = <T extends string | number>({ options }: { options: readonly Option<T>[] }) =>
  options.map(([value, says]) => (
    <Select.Item key={value} value={marked(value)} className={item}>
      <Select.ItemText>{says}</Select.ItemText>
      <Select.ItemIndicator className="absolute top-1.5 right-1.5">
        <Tick size={13} aria-hidden />
      </Select.ItemIndicator>
    </Select.Item>
  ));

/** Options that are called what they are. */
export const asSaid = <T extends string | number>(
  values: readonly T[],
  says: (value: T) => string = String,
): Option<T>[] => values.map((value) => [value, says(value)] as const);

/** The list that opens, by groups where there are any. */
const Choices = <T extends string | number>({
  options,
  groups,
}: {
  options: Props<T>['options'];
  groups: Props<T>['groups'] | undefined;
}) => (
  <Select.Portal>
    <Select.Content
      position="popper"
      sideOffset={3}
      className="z-40 max-h-[min(var(--radix-select-content-available-height),340px)] overflow-hidden rounded border border-line bg-sheet text-ink shadow-lg"
      onKeyDown={(e) => e.stopPropagation()}
    >
      <Select.Viewport className="max-h-[inherit] overflow-y-auto p-1">
        {groups ? (
          groups.map(([heading, list]) => (
            <Select.Group key={heading}>
              <Select.Label className="px-2 pt-1.5 pb-0.5 text-[11.5px] text-faint">
                {heading}
              </Select.Label>
              <Items options={list} />
            </Select.Group>
          ))
        ) : (
          <Items options={options} />
        )}
      </Select.Viewport>
    </Select.Content>
  </Select.Portal>
);
