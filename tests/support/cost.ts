/**
 * Costs are compared with costs of the same run, never with a clock: processor time of this process, so that
 * what else the machine does hardly counts, and the least of several pairs, since it only ever adds.
 */
function costOf(act: () => unknown): number {
  const before = process.cpuUsage();
  act();
  const { user, system } = process.cpuUsage(before);
  return user + system;
}

/** Pairs that are tried before a ratio counts as too great. */
const maxPairs = 6;

/**
 * How many times as much `large` costs as `small`: the least of some pairs, taken in turn; the first that is
 * below `limit` will do. What costs next to nothing is taken for half a millisecond.
 */
export function costRatio(small: () => unknown, large: () => unknown, limit: number): number {
  let least = Infinity;
  costOf(small);
  for (let pair = 0; pair < maxPairs && least >= limit; pair++) {
    const one = Math.max(500, costOf(small));
    least = Math.min(least, costOf(large) / one);
  }
  return least;
}

/** Four times the input: what is linear costs about four times as much, what is quadratic sixteen times. */
export const fourfoldLimit = 9;
