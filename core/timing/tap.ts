/** A pause longer than this begins anew. */
const longestGap = 2.5;

/**
 * Tempo of taps in BPM: the slope of a straight line through all of them (least squares), so that one late
 * finger counts little.
 * @param times seconds, ascending; taps before a long pause are left out.
 */
export function tappedBpm(times: readonly number[]): number | undefined {
  let first = times.length - 1;
  while (first > 0 && times[first]! - times[first - 1]! <= longestGap) first--;
  const taps = times.slice(first);
  if (taps.length < 2) return undefined;
  const n = taps.length;
  const middle = (n - 1) / 2;
  const mean = taps.reduce((sum, t) => sum + t, 0) / n;
  let [above, below] = [0, 0];
  taps.forEach((t, i) => {
    above += (i - middle) * (t - mean);
    below += (i - middle) ** 2;
  });
  return above <= 0 ? undefined : (60 * below) / above;
}
