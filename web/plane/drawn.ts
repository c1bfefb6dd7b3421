import type { Lane } from '#core/song/lanes.ts';
import { isSwitch } from '#core/song/lanes.ts';
import { thinned } from '#core/edit/thin.ts';

export type Point = [tick: number, value: number];

/** Finer than this nobody draws: a value every so many pixels at most. */
const pixelsApart = 2;

/**
 * A line drawn by hand as the values it writes and the ticks it covers. Going back over a place draws it
 * anew; between two places the line is straight, and each value is said once.
 */
export function drawnPoints(
  path: readonly { tick: number; value: number }[],
  what: Lane['what'],
  ticksPerPixel: number,
): { from: number; to: number; points: Point[] } {
  const step = Math.max(1, Math.round(ticksPerPixel * pixelsApart));
  const said = new Map<number, number>();
  path.forEach((to, i) => {
    const from = path[i - 1] ?? to;
    const [left, right] = from.tick <= to.tick ? [from, to] : [to, from];
    for (let tick = left.tick; tick < right.tick; tick += step)
      said.set(
        Math.round(tick / step),
        left.value + ((right.value - left.value) * (tick - left.tick)) / (right.tick - left.tick),
      );
    said.set(Math.round(to.tick / step), to.value);
  });
  const steps = [...said]
    .sort(([a], [b]) => a - b)
    .map(([n, value]): Point => [
      n * step,
      isSwitch(what) ? (value >= 64 ? 127 : 0) : Math.round(value),
    ]);
  const { keep } = thinned(
    steps.map(([, value]) => value),
    0,
  );
  return {
    from: steps[0]![0],
    to: steps.at(-1)![0] + step,
    points: steps.filter((_, i) => keep[i]),
  };
}
