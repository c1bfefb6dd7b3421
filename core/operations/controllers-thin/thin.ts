/**
 * Fewest points that hold a lane within `error` of its values when each value lasts until the next point, as MIDI controllers do:
 * a point is kept when the values since the last kept one no longer fit into a band of ±error, and then the value in the middle
 * of the band would be best, but values that were played are kept, so the band is held around the kept point's own value.
 * Optimal among choices of played points in which the first of each run speaks for it. The last value is kept exactly.
 */
export function thinned(values: readonly number[], error: number): boolean[] {
  const keep = values.map(() => false);
  if (values.length === 0) return keep;
  keep[0] = true;
  let said = values[0]!;
  for (let i = 1; i < values.length; i++) {
    if (Math.abs(values[i]! - said) <= error) continue;
    keep[i] = true;
    said = values[i]!;
  }
  if (said !== values.at(-1)) keep[values.length - 1] = true;
  return keep;
}
