import { max, min } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { tempoToBpm } from '#core/units/units.ts';
import type { Tempos } from '../../api/runs.ts';

/** What of the map is in view: ticks over the width, BPM over the height. */
export interface MapScale {
  readonly fromTick: number;
  readonly toTick: number;
  readonly low: number;
  readonly high: number;
  readonly width: number;
  readonly height: number;
  x(tick: number): number;
  y(bpm: number): number;
  tick(x: number): number;
  bpm(y: number): number;
  /** Round tempos, as many as there is room to name. */
  readonly rounds: readonly number[];
}

/** Room for bar numbers at the top, and at the bottom. */
export const mapTop = 22;
export const mapBottom = 10;
/** Room at the right. */
export const mapRight = 8;
export const mapLeft = 44;
/** Between two lines of round tempos, in pixels. */
const leastGap = 26;

export function mapScale(
  view: Pick<MapScale, 'fromTick' | 'toTick' | 'low' | 'high'>,
  width: number,
  height: number,
): MapScale {
  const { fromTick, toTick, low, high } = view;
  const along = scaleLinear(
    [fromTick, Math.max(fromTick + 1, toTick)],
    [mapLeft, Math.max(mapLeft + 1, width - mapRight)],
  );
  const within = along.copy().clamp(true);
  // What is beyond the range stands at its edge.
  const up = scaleLinear([low, high], [Math.max(mapTop + 1, height - mapBottom), mapTop]).clamp(
    true,
  );
  return {
    ...view,
    width,
    height,
    x: along,
    y: up,
    tick: (x) => within.invert(x),
    bpm: (y) => up.invert(y),
    rounds: up.ticks(Math.max(1, Math.floor((height - mapTop - mapBottom) / leastGap))),
  };
}

/** A tempo above this is a slip of somebody's file: it must not press the others flat. */
const playable = 999;

/** Lowest and highest tempo in a stretch, with room to draw above and below, on round numbers. */
export function tempoRange(
  lines: readonly Tempos[],
  fromTick: number,
  toTick: number,
): { low: number; high: number } {
  const seen = lines.flatMap(({ points, runs }) => [
    ...points
      .filter((p, i) => p.atTick < toTick && (points[i + 1]?.atTick ?? Infinity) > fromTick)
      .map((p) => tempoToBpm(p.tempo)),
    ...runs
      .filter((r) => r.fromTick < toTick && r.toTick > fromTick)
      .flatMap((r) => [r.from, r.to]),
  ]);
  const low = min(seen) ?? 120;
  let high = max(seen) ?? 120;
  if (low <= playable) high = Math.min(high, playable);
  const room = Math.max(15, (high - low) * 0.25);
  return {
    low: Math.max(4, Math.floor((low - room) / 5) * 5),
    high: Math.ceil((high + room) / 5) * 5,
  };
}
