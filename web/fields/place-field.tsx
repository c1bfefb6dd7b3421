import {
  barTick,
  meterAt,
  parsePosition,
  positionAt,
  positionText,
  tickOf,
  type MeterMap,
} from '#core/timing/meter-map.ts';

export const box = 'rounded border border-line bg-sheet px-1.5 py-0.5';

export const tickIn = (meters: MeterMap, text: string): number | undefined =>
  ((p) => p && tickOf(meters, p))(parsePosition(text));

export const placeText = (meters: MeterMap, tick: number): string =>
  positionText(positionAt(meters, tick));

export function nearestBar(meters: MeterMap, tick: number): number {
  const { bar } = positionAt(meters, tick);
  const [before, after] = [barTick(meters, bar), barTick(meters, bar + 1)];
  return tick - before <= after - tick ? before : after;
}

/** A place that is typed, or stepped by beats with the arrow keys, by bars with Shift. */
export function PlaceField({
  label,
  value,
  set,
  meters,
}: {
  label: string;
  value: string;
  set: (text: string) => void;
  meters: MeterMap;
}) {
  const nudge = (way: number, whole: boolean): void => {
    const at = tickIn(meters, value);
    if (at === undefined) return;
    const { barTicks, beatTicks } = meterAt(meters, at);
    set(placeText(meters, Math.max(0, Math.round(at + way * (whole ? barTicks : beatTicks)))));
  };
  return (
    <label className="flex items-center gap-1">
      <span className="text-faint">{label}</span>
      <input
        className={`${box} num w-[92px]`}
        aria-invalid={tickIn(meters, value) === undefined}
        value={value}
        title="Bar.beat.tick; arrow keys move it by a beat, with Shift by a bar"
        onChange={(e) => set(e.target.value)}
        onKeyDown={(e) => {
          const way = { ArrowUp: 1, ArrowDown: -1 }[e.key];
          if (way === undefined) return;
          e.preventDefault();
          nudge(way, e.shiftKey);
        }}
      />
    </label>
  );
}
