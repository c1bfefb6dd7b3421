import { Tooltip } from 'radix-ui';
import { useState, type ComponentProps, type ReactNode } from 'react';

type Kind = 'plain' | 'next' | 'quiet' | 'harm';

const looks: Record<Kind, string> = {
  plain: 'border border-line bg-sheet hover:border-stitch',
  next: 'border border-amber bg-amber text-on-amber font-semibold hover:brightness-105',
  quiet: 'border border-transparent hover:border-line',
  harm: 'border border-line bg-sheet text-rust hover:border-rust',
};

export const buttonLook = (kind: Kind = 'plain'): string =>
  `inline-flex items-center justify-center gap-1.5 rounded-[5px] px-2.5 py-1 text-[13px] whitespace-nowrap disabled:opacity-55 disabled:cursor-not-allowed ${looks[kind]}`;

/** A button; what its title says beyond its words is shown where the pointer rests on it or the keys come to it. */
export function Button({
  kind = 'plain',
  className = '',
  title,
  ...rest
}: ComponentProps<'button'> & { kind?: Kind }) {
  const button = (
    <button
      type="button"
      className={`${buttonLook(kind)} ${className}`}
      {...rest}
      {...(rest.disabled ? { title } : {})}
    />
  );
  // The same element whether it can be pressed or not: pressed by keys and busy for a moment, it has the
  // focus still. While it cannot be pressed
  // it says so by itself: nothing else hears the pointer there.
  return title ? (
    <Hint says={title} never={rest.disabled === true}>
      {button}
    </Hint>
  ) : (
    button
  );
}

function Hint({ says, never, children }: { says: string; never: boolean; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <Tooltip.Root open={open && !never} onOpenChange={setOpen}>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={4}
          className="z-50 max-w-[320px] rounded border border-line bg-sheet px-2 py-1 text-[12.5px] text-ink shadow"
        >
          {says}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
