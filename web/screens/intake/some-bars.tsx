import { Check } from '../../fields/check.tsx';
import { input } from '../../fields/field.ts';
import type { Wanted } from '../../intake/bring-model.ts';

/** Whether all bars of a source come in, or from which to which. */
export function SomeBars({
  all,
  bars,
  set,
}: {
  /** How many there are. */
  all: number;
  bars: Wanted['bars'];
  set: (bars: Wanted['bars']) => void;
}) {
  const within = (typed: string, least: number): number =>
    Math.max(least, Math.min(all, Math.round(Number(typed)) || least));
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-2 gap-y-1">
      <Check checked={bars !== null} set={(on) => set(on ? { from: 1, to: all } : null)}>
        only some of its bars
      </Check>
      {bars && (
        <span className="flex items-center gap-2">
          <input
            type="number"
            aria-label="From its bar"
            className={`${input} num w-[64px]`}
            min={1}
            max={all}
            value={bars.from}
            onChange={(e) => {
              const from = within(e.target.value, 1);
              set({ from, to: Math.max(from, bars.to) });
            }}
          />
          to
          <input
            type="number"
            aria-label="To its bar"
            className={`${input} num w-[64px]`}
            min={bars.from}
            max={all}
            value={bars.to}
            onChange={(e) => set({ ...bars, to: within(e.target.value, bars.from) })}
          />
        </span>
      )}
    </div>
  );
}
