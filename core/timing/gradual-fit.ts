import { tempoToBpm } from '../units/units.ts';
import { secondsInto, shapes, type GradualChange, type Shape } from './gradual.ts';
import type { TempoPoint } from './timing.ts';

/**
 * A gradual change that tempo points say in steps: `first` begins it, at `last` it has arrived (indices of
 * the points).
 */
export interface GradualRun {
  readonly first: number;
  readonly last: number;
  readonly fromTick: number;
  readonly toTick: number;
  /** Quarter notes a minute. */
  readonly from: number;
  readonly to: number;
  readonly shape: Shape;
  /** Greatest distance in seconds between the steps and the change, anywhere in it. */
  readonly deviation: number;
}

/** A smaller change of tempo, in proportion, is none. */
export const leastChange = 0.01;
/** Of longer runs only so many points are weighed where one tempo is solved for. */
const mostSummed = 96;

/** What a run is held against: its points, their times, and how near is near enough. */
export interface Line {
  readonly points: readonly TempoPoint[];
  readonly seconds: Float64Array;
  readonly ticksPerQuarter: number;
  readonly tolerance: number;
}

/**
 * The closed form that arrives where and when the steps do, of the shape that is nearer; undefined where
 * neither is near enough.
 */
export function bestFit(
  line: Line,
  first: number,
  last: number,
  arrival: 'stated' | 'free',
): GradualRun | undefined {
  const { points, seconds, ticksPerQuarter, tolerance } = line;
  const [fromTick, toTick] = [points[first]!.atTick, points[last]!.atTick];
  const quarters = (toTick - fromTick) / ticksPerQuarter;
  const mean = (quarters * 60) / (seconds[last]! - seconds[first]!);
  let best: GradualRun | undefined;
  for (const shape of shapes) {
    const through = (to: number): GradualChange | undefined => {
      const from = startOf(shape, mean, to);
      return from === undefined || Math.abs(to - from) < from * leastChange
        ? undefined
        : { quarters, from, to, shape };
    };
    const to =
      arrival === 'stated'
        ? roundedBpm(points[last]!.tempo)
        : freeArrival(line, first, last, through);
    const solved = to === undefined ? undefined : through(to);
    if (!solved) continue;
    const deviation = furthestOff(line, first, last, solved, best?.deviation ?? tolerance);
    if (deviation > (best?.deviation ?? tolerance)) continue;
    const round = roundest(solved.from, deviation, (from, enough) =>
      furthestOff(line, first, last, { ...solved, from }, enough),
    );
    best = {
      first,
      last,
      fromTick,
      toTick,
      from: round.value,
      to: solved.to,
      shape,
      deviation: round.deviation,
    };
  }
  return best;
}

/**
 * The tempo a run arrives at where the point behind it says another: the next change begins there, or the
 * tempo jumps. It is the one with which the change is as much before the steps as behind them, first in the
 * middle, then over all points.
 */
function freeArrival(
  line: Line,
  first: number,
  last: number,
  through: (to: number) => GradualChange | undefined,
): number | undefined {
  const lastStep = tempoToBpm(line.points[last - 1]!.tempo);
  const middle = (first + last) >> 1;
  const solve = (
    lean: (change: GradualChange) => number,
    least: number,
    most: number,
  ): number | undefined => {
    const at = (to: number): number | undefined =>
      ((change) => change && lean(change))(through(to));
    let [low, high] = [least, most];
    const [atLow, atHigh] = [at(low), at(high)];
    if (atLow === undefined || atHigh === undefined || Math.sign(atLow) === Math.sign(atHigh))
      return undefined;
    for (let i = 0; i < 40; i++) {
      const to = (low + high) / 2;
      const its = at(to);
      if (its === undefined) return undefined;
      if (Math.sign(its) === Math.sign(atLow)) low = to;
      else high = to;
    }
    return (low + high) / 2;
  };
  const rough = solve(
    (change) => ahead(line, first, middle, change),
    lastStep * 0.85,
    lastStep * 1.15,
  );
  const change = rough === undefined ? undefined : through(rough);
  if (!change || furthestOff(line, first, last, change, line.tolerance * 2) > line.tolerance * 2)
    return undefined;
  const stride = Math.ceil((last - first) / mostSummed);
  const mean = (change: GradualChange): number => {
    let sum = 0;
    // Steps are on one side at their ends and on the other in their middles.
    for (let i = first; i < last; i += stride)
      sum += ahead(line, first, i, change) + ahead(line, first, i, change, 0.5);
    return sum;
  };
  const fine = solve(mean, rough! * 0.97, rough! * 1.03) ?? rough!;
  const off = (to: number, enough: number): number =>
    ((change) => (change ? furthestOff(line, first, last, change, enough) : Infinity))(through(to));
  return roundest(fine, off(fine, Infinity), off).value;
}

/** By how many seconds the steps are behind a change at point `i`, or within the step that begins there. */
function ahead(
  { points, seconds, ticksPerQuarter }: Line,
  first: number,
  i: number,
  change: GradualChange,
  within = 0,
): number {
  const into =
    within === 0 ? 0 : ((points[i + 1]!.atTick - points[i]!.atTick) / ticksPerQuarter) * within;
  return (
    seconds[i]! +
    (into * points[i]!.tempo) / 1_000_000 -
    seconds[first]! -
    secondsInto(change, (points[i]!.atTick - points[first]!.atTick) / ticksPerQuarter + into)
  );
}

/** A tempo in BPM with three decimals where that is the same tempo in the file: 434783 µs is 138. */
function roundedBpm(tempo: number): number {
  const near = Math.round(tempoToBpm(tempo) * 1000) / 1000;
  return Math.round(60_000_000 / near) === tempo ? near : tempoToBpm(tempo);
}

/**
 * The roundest tempo that is as good as the one solved: steps are whole microseconds, so what is solved
 * from them has a tail.
 */
function roundest(
  solved: number,
  deviation: number,
  off: (value: number, enough: number) => number,
): { value: number; deviation: number } {
  for (const unit of [1, 10, 100, 1000]) {
    const value = Math.round(solved * unit) / unit;
    if (Math.abs(value - solved) > solved * 0.001) continue;
    const its = off(value, deviation + 0.00005);
    if (its <= deviation + 0.00005) return { value, deviation: its };
  }
  return { value: solved, deviation };
}

/**
 * The tempo with which a change begins that goes to `to` and has the mean tempo `mean`: arithmetic over
 * time, logarithmic over beats. In proportion the mean of the beats' lengths is logarithmic, so that the
 * same is solved for lengths in place of tempos.
 */
function startOf(shape: Shape, mean: number, to: number): number | undefined {
  if (shape === 'over time') return 2 * mean - to > 0 ? 2 * mean - to : undefined;
  if (shape === 'over beats') return logarithmicStart(mean, to);
  const length = logarithmicStart(1 / mean, 1 / to);
  return length === undefined ? undefined : 1 / length;
}

/** One of two values of which the other and the logarithmic mean are known. */
function logarithmicStart(mean: number, to: number): number | undefined {
  // The logarithmic mean (to − from) / ln(to / from) rises with `from`, and is near the arithmetic:
  // Newton's steps, in proportions of `to`.
  const wanted = mean / to;
  let from = Math.max(0.02, 2 * wanted - 1);
  for (let i = 0; i < 50; i++) {
    const log = Math.log(from);
    const near = Math.abs(from - 1) < 1e-6;
    const off = (near ? (1 + from) / 2 : (from - 1) / log) - wanted;
    const slope = near ? 0.5 : (log - 1 + 1 / from) / (log * log);
    const next = Math.max(from / 4, from - off / slope);
    if (Math.abs(next - from) <= 1e-13 * from) return next * to;
    from = next;
  }
  return from > 1e-4 && from < 1e4 ? from * to : undefined;
}

/**
 * Greatest distance between steps and change: at the points, and within a step where the change passes
 * through its tempo. Beyond `enough` the first that is found.
 */
function furthestOff(
  { points, seconds, ticksPerQuarter }: Line,
  first: number,
  last: number,
  change: GradualChange,
  enough: number,
): number {
  const start = points[first]!.atTick;
  const offIn = (i: number): number => {
    const [q, next] = [
      (points[i]!.atTick - start) / ticksPerQuarter,
      (points[i + 1]!.atTick - start) / ticksPerQuarter,
    ];
    const at = (place: number): number =>
      Math.abs(
        seconds[i]! -
          seconds[first]! +
          ((place - q) * points[i]!.tempo) / 1_000_000 -
          secondsInto(change, place),
      );
    const turn = quarterAtTempo(change, tempoToBpm(points[i]!.tempo));
    return Math.max(at(next), turn > q && turn < next ? at(turn) : 0);
  };
  // In the middle the distance is greatest as a rule: most of what fits badly is told by three looks.
  let most = Math.max(
    ...[0.5, 0.25, 0.75].map((part) => offIn(first + Math.floor((last - first) * part))),
  );
  for (let i = first; i < last && most <= enough; i++) most = Math.max(most, offIn(i));
  return most;
}

/** Where in a change a tempo is reached. */
function quarterAtTempo({ quarters, from, to, shape }: GradualChange, bpm: number): number {
  if (shape === 'over beats') return ((bpm - from) * quarters) / (to - from);
  if (shape === 'in proportion') return (Math.log(bpm / from) * quarters) / Math.log(to / from);
  return ((bpm * bpm - from * from) * quarters) / (to * to - from * from);
}
