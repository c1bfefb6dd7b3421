import { Toggle } from 'radix-ui';
import type { ComponentProps } from 'react';
import { Button } from './button.tsx';

/** A button that is pressed in or not. */
export const ToggleButton = ({
  pressed,
  set,
  className = '',
  ...rest
}: ComponentProps<typeof Button> & {
  readonly pressed: boolean;
  readonly set: (pressed: boolean) => void;
}) => (
  <Toggle.Root asChild pressed={pressed} onPressedChange={set}>
    <Button
      className={`aria-pressed:!border-amber aria-pressed:!bg-amber-soft ${className}`}
      {...rest}
    />
  </Toggle.Root>
);
