import { Check as Tick } from 'lucide-react';
import { Checkbox } from 'radix-ui';
import { useId, type MouseEvent, type ReactNode } from 'react';

interface BoxProps {
  readonly checked: boolean;
  readonly set: (checked: boolean) => void;
  readonly disabled?: boolean;
  readonly title?: string;
}

const box =
  'grid size-[14px] shrink-0 place-items-center rounded-[3px] border border-stitch bg-paper align-middle disabled:opacity-40 data-[state=checked]:border-amber data-[state=checked]:bg-amber data-[state=checked]:text-on-amber';

/** Something that is so or not, with its words beside it. */
export function Check({
  children,
  says,
  checked,
  set,
  disabled = false,
  title,
}: BoxProps & {
  readonly children: ReactNode;
  /** What it means, below. */ readonly says?: string | undefined;
}) {
  const id = useId();
  return (
    <div className={`flex gap-2 ${says ? 'items-start' : 'items-center'}`} title={title}>
      <Checkbox.Root
        id={id}
        className={`${box} ${says ? 'mt-[3px]' : ''}`}
        checked={checked}
        disabled={disabled}
        onCheckedChange={(to) => set(to === true)}
      >
        <Checkbox.Indicator>
          <Tick size={11} strokeWidth={3} aria-hidden />
        </Checkbox.Indicator>
      </Checkbox.Root>
      <label htmlFor={id} className="min-w-0">
        {children}
        {says && <span className="block text-[12.5px] text-faint">{says}</span>}
      </label>
    </div>
  );
}

/** The box alone, where the row it stands in says what it is. */
export function CheckBox({
  label,
  checked,
  set,
  disabled = false,
  title,
  skipped = false,
}: BoxProps & {
  readonly label: string;
  /** The tab key passes it over: the row has keys of its own. */ readonly skipped?: boolean;
}) {
  return (
    <Checkbox.Root
      aria-label={label}
      title={title}
      className={box}
      checked={checked}
      disabled={disabled}
      {...(skipped ? { tabIndex: -1 } : {})}
      onClick={(e: MouseEvent) => e.stopPropagation()}
      onCheckedChange={(to) => set(to === true)}
    >
      <Checkbox.Indicator>
        <Tick size={11} strokeWidth={3} aria-hidden />
      </Checkbox.Indicator>
    </Checkbox.Root>
  );
}
