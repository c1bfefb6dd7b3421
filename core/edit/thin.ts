/**
 * The fewest values that keep a lane within `error` of what it says when each value lasts until the next,
 * as MIDI controllers do. Values stand at times where the lane said something; the first and the last are
 * said exactly, those between in the middle of what they stand for. A stretch is made as long as its values
 * lie within twice the error: no choice reaches further, so no other has fewer. `keep[i]` says whether
 * point `i` stays, `values[i]` what it then says.
 */
export function thinned(
  given: readonly number[],
  error: number,
): { keep: boolean[]; values: number[] } {
  const keep = given.map(() => false);
  const values = [...given];
  const count = given.length;
  if (count === 0) return { keep, values };
  const last = given[count - 1]!;
  // The stretch at the end says the last value exactly: it can begin anywhere from here on.
  let lastFrom = count - 1;
  while (lastFrom > 0 && Math.abs(given[lastFrom - 1]! - last) <= error) lastFrom--;
  let from = 0;
  for (;;) {
    const first = from === 0;
    if (from >= lastFrom && (!first || given[0] === last)) {
      keep[from] = true;
      values[from] = last;
      return { keep, values };
    }
    let low = given[from]!;
    let high = low;
    let to = from + 1;
    // A stretch that could run to the end stops where the last may begin.
    for (; to < Math.max(from + 1, lastFrom); to++) {
      const v = given[to]!;
      if (
        first ? Math.abs(v - given[0]!) > error : Math.max(high, v) - Math.min(low, v) > 2 * error
      )
        break;
      low = Math.min(low, v);
      high = Math.max(high, v);
    }
    keep[from] = true;
    values[from] = first ? given[0]! : Math.floor((low + high) / 2);
    from = to;
  }
}
