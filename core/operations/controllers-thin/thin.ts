/**
 * Which points to keep so that a lane stays within `error` of its values when each value lasts until the next kept point, as MIDI
 * controllers do. Points are values that were played, at their own times: a point is kept as soon as the value said last is further
 * off than the error. One pass; now and then a choice made with foresight would need a point less. The first and the last value
 * are said exactly.
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
