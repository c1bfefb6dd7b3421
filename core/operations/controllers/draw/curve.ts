import { thinned } from '../../../edit/thin.ts';

export const curves = ['straight', 'ease in', 'ease out', 'ease both'] as const;
export type Curve = (typeof curves)[number];

/** Where the curve is at a part 0–1 of its way. Easing is quadratic. */
export function curveAt(curve: Curve, part: number): number {
  if (curve === 'ease in') return part * part;
  if (curve === 'ease out') return part * (2 - part);
  if (curve === 'ease both') return part < 0.5 ? 2 * part * part : 1 - 2 * (1 - part) ** 2;
  return part;
}

/** The curve at each tick where its rounded value changes; finer than this no lane can say it. */
function everyStep(
  { from, to }: { from: number; to: number },
  first: number,
  last: number,
  curve: Curve,
): { atTick: number; value: number }[] {
  const points = [{ atTick: from, value: first }];
  const length = Math.max(1, to - from);
  // Values are met in order: the tick of each is found by halving, so that long spans cost no more than short ones.
  const at = (tick: number): number =>
    Math.round(first + (last - first) * curveAt(curve, (tick - from) / length));
  let tick = from;
  while (points.at(-1)!.value !== last) {
    const said = points.at(-1)!.value;
    let low = tick;
    let high = to;
    while (high - low > 1) {
      const middle = Math.floor((low + high) / 2);
      if (at(middle) === said) low = middle;
      else high = middle;
    }
    tick = high;
    points.push({ atTick: tick, value: tick >= to ? last : at(tick) });
  }
  return points;
}

/** A curve over ticks as the fewest held values that stay within `error` of it; its ends are said exactly. */
export function curvePoints(
  span: { from: number; to: number },
  first: number,
  last: number,
  curve: Curve,
  error: number,
): { atTick: number; value: number }[] {
  const all = everyStep(span, first, last, curve);
  const { keep, values } = thinned(
    all.map((p) => p.value),
    error,
  );
  return all.flatMap(({ atTick }, i) => (keep[i] ? [{ atTick, value: values[i]! }] : []));
}
