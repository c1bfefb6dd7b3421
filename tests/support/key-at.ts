import type { Timing } from '#core/timing/timing.ts';

/** The key signature in force at a tick; undefined before any. */
export const keyAt = ({ keys }: Pick<Timing, 'keys'>, tick: number): unknown =>
  keys
    .filter(({ atTick }) => atTick <= tick)
    .map(({ sharps, minor }) => ({ sharps, minor }))
    .at(-1);
