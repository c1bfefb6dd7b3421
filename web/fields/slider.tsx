import { Slider as Radix } from 'radix-ui';

/** A number to be dragged; arrow keys step it. */
export function Slider({
  label,
  value,
  least,
  most,
  step,
  set,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  step: number;
  set: (value: number) => void;
}) {
  return (
    <Radix.Root
      className="relative flex h-4 w-full touch-none items-center select-none"
      value={[value]}
      min={least}
      max={most}
      step={step}
      onValueChange={([to]) => to !== undefined && set(to)}
    >
      <Radix.Track className="relative h-[3px] grow rounded-full bg-line">
        <Radix.Range className="absolute h-full rounded-full bg-amber" />
      </Radix.Track>
      <Radix.Thumb
        aria-label={label}
        className="block size-[13px] rounded-full border border-amber bg-sheet shadow"
      />
    </Radix.Root>
  );
}
