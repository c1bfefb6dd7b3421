/**
 * Two factors scale every test. `SATCHEL_TEST_RUNS` is the share of the random runs: a tenth unless the deep
 * run asks for all (1). `SATCHEL_TEST_PATIENCE` multiplies every timeout, for machines that carry much else.
 */
const factor = (name: string, usual: number): number => {
  const asked = Number(process.env[name] ?? usual);
  if (!(asked > 0)) throw new RangeError(`${name} is ${process.env[name]}: give a number above 0`);
  return asked;
};

/** Whether all random runs are asked for, and what is too long for the quick run. */
export const isDeep = factor('SATCHEL_TEST_RUNS', 0.1) >= 1;

/** How many of `all` random runs are asked for: three at least. Seeds stay as they are. */
export const scaleRuns = (all: number): number =>
  Math.max(Math.min(all, 3), Math.ceil(all * Math.min(1, factor('SATCHEL_TEST_RUNS', 0.1))));

/** What `all` random runs bring about at least, for the share of them that is asked for. */
export const scaleCount = (all: number): number =>
  Math.floor(all * Math.min(1, factor('SATCHEL_TEST_RUNS', 0.1)));

/** Milliseconds of a timeout. */
export const scaleTimeout = (ms: number): number =>
  Math.ceil(ms * factor('SATCHEL_TEST_PATIENCE', 1));
