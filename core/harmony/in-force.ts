/** The point of ascending ones that is in force at a tick. */
export function inForceAt<P extends { readonly atTick: number }>(
  points: readonly P[],
  tick: number,
): P | undefined {
  let [low, high] = [0, points.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (points[middle]!.atTick <= tick) low = middle + 1;
    else high = middle;
  }
  return points[low - 1];
}
