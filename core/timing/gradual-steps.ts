import { withinSteps, type FewSteps, type TimePoint } from './few-steps.ts';
import { secondsInto, type GradualChange } from './gradual.ts';

/** Places at which a gradual change is followed: every eighth of a quarter or nearer, and no more than this many. */
const mostPlaces = 20_000;

/** A gradual change as a line of time over the ticks from `fromTick` to `toTick`. */
export function lineOf(
  change: GradualChange,
  fromTick: number,
  toTick: number,
  ticksPerQuarter: number,
): TimePoint[] {
  const ticks = toTick - fromTick;
  const step = Math.max(
    1,
    Math.min(Math.floor(ticksPerQuarter / 8), Math.ceil(ticks / 2000)),
    Math.ceil(ticks / mostPlaces),
  );
  const line: TimePoint[] = [];
  for (let tick = fromTick; tick < toTick; tick += step)
    line.push({ atTick: tick, seconds: secondsInto(change, (tick - fromTick) / ticksPerQuarter) });
  line.push({ atTick: toTick, seconds: secondsInto(change, change.quarters) });
  return line;
}

/**
 * The steps as which a gradual change leaves: as few as keep every place within `error` seconds, and at
 * most `most`.
 */
export const gradualSteps = (
  change: Omit<GradualChange, 'quarters'>,
  fromTick: number,
  toTick: number,
  ticksPerQuarter: number,
  { error, most }: { error: number; most: number },
): FewSteps =>
  withinSteps(
    lineOf(
      { ...change, quarters: (toTick - fromTick) / ticksPerQuarter },
      fromTick,
      toTick,
      ticksPerQuarter,
    ),
    ticksPerQuarter,
    error,
    most,
  );
