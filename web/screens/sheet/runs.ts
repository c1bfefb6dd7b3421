import type { Bars } from '../../state/scope.ts';

/**
 * The bars of the run of a track that is under a part (0–1) of its strip; undefined where it is silent there.
 * `activity` has one cell for each bar, or for several in very long songs.
 */
export function runAt(activity: readonly number[], part: number, bars: number): Bars | undefined {
  const cell = Math.min(activity.length - 1, Math.max(0, Math.floor(part * activity.length)));
  if (!activity[cell]) return undefined;
  let [first, last] = [cell, cell];
  while (first > 0 && activity[first - 1]) first--;
  while (last < activity.length - 1 && activity[last + 1]) last++;
  const barsInCell = Math.ceil(bars / activity.length);
  return { from: first * barsInCell + 1, to: Math.min(bars, (last + 1) * barsInCell) };
}
