import { tempoToBpm } from '../units/units.ts';
import type { TempoPoint } from './timing.ts';

/** Steps that are nearer than this to a gradual change, in seconds, are taken for one whoever wrote them. */
export const recognised = 0.002;
/** And none that are further off than this, however coarse they are. */
const furthest = 0.02;
/** Fewer steps than this are how people write a rit. by hand: they get no room for being coarse. */
const leastSteps = 8;
/** Nor do steps further apart than a beat: a tempo that is raised from verse to verse is no gradual change. */
const mostQuarters = 1.01;

/** How near the tempo points from `first` to `last` must be to a closed form to be taken for one change, in seconds. */
export type Tolerance = (first: number, last: number) => number;

/** What coarse and rounded steps leave room for. Each step has a room of its own, and the greatest counts. */
export function toleranceOf(points: readonly TempoPoint[], ticksPerQuarter: number): Tolerance {
  const room = new Float64Array(points.length);
  // From behind: a tempo that is stated again goes on until another is.
  for (let i = points.length - 2, until = points.length - 1; i >= 0; i--) {
    const [a, b] = [points[i]!, points[i + 1]!];
    if (a.tempo !== b.tempo) until = i + 1;
    const quarters = (b.atTick - a.atTick) / ticksPerQuarter;
    if (quarters <= mostQuarters)
      room[i] =
        roomOf(
          (points[until]!.atTick - a.atTick) / ticksPerQuarter,
          a.tempo / 1e6,
          points[until]!.tempo / 1e6,
        ) + roomOfRounding(quarters, a.tempo);
  }
  const greatest = greatestOf(room);
  return (first, last) =>
    last - first < leastSteps
      ? recognised
      : Math.min(furthest, Math.max(recognised, greatest(first, last)));
}

/** The greatest of the values from `first` up to, not including, `last`; whole blocks are known. */
function greatestOf(values: Float64Array): (first: number, last: number) => number {
  const size = 64;
  const blocks = new Float64Array(Math.ceil(values.length / size));
  values.forEach((value, i) => {
    const block = Math.floor(i / size);
    blocks[block] = Math.max(blocks[block]!, value);
  });
  return (first, last) => {
    let most = 0;
    for (let i = first; i < last;) {
      const whole = i % size === 0 && i + size <= last;
      most = Math.max(most, whole ? blocks[i / size]! : values[i]!);
      i += whole ? size : 1;
    }
    return most;
  };
}

/**
 * A step of so many quarters is `quarters · difference / 8` from any smooth line, as a chord is from its
 * parabola; twice that, since steps hold the tempo that each began with, or ended with. Tempos in seconds a
 * quarter.
 */
const roomOf = (quarters: number, tempo: number, next: number): number =>
  (quarters * Math.abs(next - tempo)) / 4;

/**
 * Rounding errs the same way for some steps before it errs the other: by a quarter of its unit on average,
 * for a dozen or two.
 */
const roomOfRounding = (quarters: number, tempo: number): number =>
  (6 * quarters * roundness(tempo) * (tempo / 1e6) ** 2) / 60;

/** The unit of BPM that a tempo was rounded to: 1, a tenth, or 0 for none that is seen. */
function roundness(tempo: number): number {
  const bpm = tempoToBpm(tempo);
  const says = (rounded: number): boolean => Math.round(60_000_000 / rounded) === tempo;
  return says(Math.round(bpm)) ? 1 : says(Math.round(bpm * 10) / 10) ? 0.1 : 0;
}
