/**
 * A bound as it is said: hundredths, rounded up, so that it is never below what it bounds. What is less than a
 * millionth above a hundredth comes from computing and counts as that.
 */
export const boundText = (bound: number): string =>
  (Math.ceil(bound * 100 - 1e-4) / 100).toFixed(2);
