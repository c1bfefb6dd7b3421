import { barTick, meterAt, type MeterMap } from '../timing/meter-map.ts';
import { exactTicks } from './exact-ticks.ts';

/**
 * Nearest line of the grid that begins anew with every bar; every other line is moved by the swing. A bar
 * line is always on it, also where another meter cuts the bar short. Half way between two lines the earlier
 * one is the nearest.
 */
export function nearestLine(map: MeterMap, tick: number, step: number, swing: number): number {
  const span = meterAt(map, tick);
  const number = Math.floor((tick - span.atTick) / span.barTicks);
  const bar = span.atTick + number * span.barTicks;
  const length = Math.min(span.barTicks, barTick(map, span.bar + number + 1) - bar);
  const line = (n: number): number =>
    Math.min(length, (n - (n % 2)) * step + (n % 2) * 2 * step * (swing / 100));
  const near = Math.floor((tick - bar) / step);
  let best = 0;
  for (let n = Math.max(0, near - 1); n <= near + 2; n++)
    if (exactTicks(Math.abs(bar + line(n) - tick)) < exactTicks(Math.abs(bar + best - tick)))
      best = line(n);
  return exactTicks(bar + best);
}
