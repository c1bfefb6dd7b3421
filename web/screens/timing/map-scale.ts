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
}

/** Room for bar numbers at the top, and at the bottom. */
export const mapTop = 22;
export const mapBottom = 10;
export const mapLeft = 44;

export function mapScale(view: Pick<MapScale, 'fromTick' | 'toTick' | 'low' | 'high'>, width: number, height: number): MapScale {
  const { fromTick, toTick, low, high } = view;
  const [wide, tall] = [Math.max(1, width - mapLeft - 8), Math.max(1, height - mapTop - mapBottom)];
  const ticks = Math.max(1, toTick - fromTick);
  return {
    ...view, width, height,
    x: (tick) => mapLeft + ((tick - fromTick) / ticks) * wide,
    // What is beyond the range stands at its edge.
    y: (bpm) => mapTop + ((high - Math.min(high, Math.max(low, bpm))) / (high - low)) * tall,
    tick: (x) => fromTick + ((Math.min(width - 8, Math.max(mapLeft, x)) - mapLeft) / wide) * ticks,
    bpm: (y) => Math.min(high, Math.max(low, high - ((y - mapTop) / tall) * (high - low))),
  };
}

/** A tempo above this is a slip of somebody's file: it must not press the others flat. */
const playable = 999;

/** Lowest and highest tempo in a stretch, with room to draw above and below, on round numbers. */
export function tempoRange(lines: readonly Tempos[], fromTick: number, toTick: number): { low: number; high: number } {
  let [low, high] = [Infinity, -Infinity];
  const take = (bpm: number): void => {
    low = Math.min(low, bpm);
    high = Math.max(high, bpm);
  };
  for (const { points, runs } of lines) {
    points.forEach((p, i) => {
      if (p.atTick < toTick && (points[i + 1]?.atTick ?? Infinity) > fromTick) take(tempoToBpm(p.tempo));
    });
    for (const r of runs) if (r.fromTick < toTick && r.toTick > fromTick) [r.from, r.to].forEach(take);
  }
  if (low <= playable) high = Math.min(high, playable);
  const room = Math.max(15, (high - low) * 0.25);
  return { low: Math.max(4, Math.floor((low - room) / 5) * 5), high: Math.ceil((high + room) / 5) * 5 };
}
