import { endOf, type Arrangement } from './stretches.ts';

/**
 * A place where time does not go on as it did: the old tick up to which was played before it (none at the
 * beginning), and the old tick at which it goes on.
 */
export interface Join {
  readonly atTick: number;
  readonly after: number | undefined;
  readonly from: number;
  /** Where what was played before it ends: before the join, where empty time lies between. */
  readonly ends: number;
}

export const joinsOf = ({ stretches }: Arrangement): Join[] =>
  stretches.map(({ from, at }, n) => {
    const before = stretches[n - 1];
    return { atTick: at, after: before?.to, from, ends: before ? endOf(before) : at };
  });

/** The old ticks at which it matters what is in force, in order. */
export const ticksOf = ({ stretches }: Arrangement): number[] =>
  [...new Set([0, ...stretches.flatMap(({ from, to }) => [from, to])])]
    .filter((tick) => tick < Infinity)
    .sort((a, b) => a - b);
