import { gradualRuns, type GradualRun } from '#core/timing/gradual-runs.ts';
import { effective } from '#core/timing/tempo-map.ts';
import type { TempoPoint } from '#core/timing/timing.ts';

/** A tempo map as it is shown: its tempos as they count, and which of them are gradual changes. */
export interface Tempos {
  readonly points: readonly TempoPoint[];
  readonly runs: readonly GradualRun[];
}

/** More tempos than this are shown as they stand: looking for changes in them would hold the page up. */
const mostLooked = 20_000;

const known = new WeakMap<readonly TempoPoint[], Tempos>();

export function temposOf(
  tempos: readonly TempoPoint[],
  ticksPerQuarter: number | undefined,
): Tempos {
  const had = known.get(tempos);
  if (had) return had;
  const points = effective(tempos);
  const made = {
    points,
    runs:
      ticksPerQuarter === undefined || points.length > mostLooked
        ? []
        : gradualRuns(points, ticksPerQuarter),
  };
  known.set(tempos, made);
  return made;
}
