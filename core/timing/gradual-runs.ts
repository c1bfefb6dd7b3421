import { tempoToBpm } from '../units/units.ts';
import { toleranceOf } from './coarseness.ts';
import { secondsInto, shapes, type GradualChange, type Shape } from './gradual.ts';
import type { TempoPoint } from './timing.ts';

/** A gradual change that tempo points say in steps: `first` begins it, at `last` it has arrived (indices of the points). */
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

/** Nearer than this nothing needs to be. */
const near = 0.0002;
/** With fewer points anything is a gradual change. */
const leastPoints = 4;
const leastChange = 0.01;

/** Runs of coarse steps are looked through for where they arrive up to this length; longer ones are dense, and searched by halves. */
const lookedThrough = 64;

/** Gradual changes in tempo points of ascending ticks: runs that go one way and follow a closed form as nearly as their steps allow. */
export function gradualRuns(points: readonly TempoPoint[], ticksPerQuarter: number): GradualRun[] {
  const runs: GradualRun[] = [];
  const seconds = secondsAt(points, ticksPerQuarter);
  const tolerance = toleranceOf(points, ticksPerQuarter);
  const fit: Fit = (first, last, arrival = 'stated') =>
    last - first + 1 < leastPoints || last >= points.length ? undefined : bestFit({ points, seconds, ticksPerQuarter, tolerance: tolerance(first, last) }, first, last, arrival);
  for (let first = 0; first + leastPoints <= points.length; ) {
    const turn = oneWayUntil(points, first);
    const run = atTurn(fit, first, turn) ?? shorter(fit, first, turn);
    if (run) runs.push(run);
    first = run ? run.last : first + 1;
  }
  return runs;
}

type Fit = (first: number, last: number, arrival?: 'stated' | 'free') => GradualRun | undefined;

/** A run that arrives where the tempos turn, or one point behind: the last step makes up for what the others left and may overshoot. */
function atTurn(fit: Fit, first: number, turn: number): GradualRun | undefined {
  const nearer = (a: GradualRun | undefined, b: GradualRun | undefined): GradualRun | undefined => (a && b ? (b.deviation < a.deviation ? b : a) : (a ?? b));
  const stated = nearer(fit(first, turn), fit(first, turn + 1));
  if (stated && stated.deviation < near) return stated;
  const free = nearer(fit(first, turn, 'free'), fit(first, turn + 1, 'free'));
  // Shreds that hold the tempo each began with arrive half a shred early.
  return stated && free && free.last === stated.last && free.deviation < stated.deviation / 2 ? free : (stated ?? free);
}

/** A run that ends before the turn, unless one that begins a point later reaches it: what was before a change may go its way too. */
function shorter(fit: Fit, first: number, turn: number): GradualRun | undefined {
  const run = turn - first < lookedThrough ? latest(fit, first, turn) : longest(fit, first, turn);
  return run && atTurn(fit, first + 1, turn) ? undefined : run;
}

function latest(fit: Fit, first: number, turn: number): GradualRun | undefined {
  for (let last = turn - 1; last >= first + leastPoints - 1; last--) {
    const run = fit(first, last);
    if (run) return run;
  }
  return undefined;
}

function secondsAt(points: readonly TempoPoint[], ticksPerQuarter: number): Float64Array {
  const sums = new Float64Array(points.length);
  for (let i = 1; i < points.length; i++) sums[i] = sums[i - 1]! + ((points[i]!.atTick - points[i - 1]!.atTick) * points[i - 1]!.tempo) / (ticksPerQuarter * 1_000_000);
  return sums;
}

/** Last point of those that only rise, or only fall, from `first`. Rounded tempos may be stated twice on the way, but not at its ends. */
function oneWayUntil(points: readonly TempoPoint[], first: number): number {
  const way = Math.sign((points[first + 1]?.tempo ?? 0) - points[first]!.tempo);
  let last = first;
  for (let i = first; i + 1 < points.length && way !== 0; i++) {
    const turn = Math.sign(points[i + 1]!.tempo - points[i]!.tempo);
    if (turn === -way) break;
    if (turn === way) last = i + 1;
  }
  return last;
}

/** The longest run from `first` that fits, looked for in doubling strides and then between the last two. */
function longest(fit: Fit, first: number, furthest: number): GradualRun | undefined {
  let low = first + leastPoints - 1;
  let best = fit(first, low);
  if (!best) return undefined;
  let high = furthest;
  for (let stride = 1; low + stride < furthest; stride *= 2) {
    const tried = fit(first, low + stride);
    if (!tried) {
      high = low + stride;
      break;
    }
    best = tried;
    low += stride;
  }
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    const tried = fit(first, middle);
    if (tried) [low, best] = [middle, tried];
    else high = middle;
  }
  return best;
}

/** What a run is held against: its points, their times, and how near is near enough. */
interface Line {
  readonly points: readonly TempoPoint[];
  readonly seconds: Float64Array;
  readonly ticksPerQuarter: number;
  readonly tolerance: number;
}

/** The closed form that arrives where and when the steps do, of the shape that is nearer; undefined where neither is near enough. */
function bestFit(line: Line, first: number, last: number, arrival: 'stated' | 'free'): GradualRun | undefined {
  const { points, seconds, ticksPerQuarter, tolerance } = line;
  const [fromTick, toTick] = [points[first]!.atTick, points[last]!.atTick];
  const quarters = (toTick - fromTick) / ticksPerQuarter;
  const mean = (quarters * 60) / (seconds[last]! - seconds[first]!);
  let best: GradualRun | undefined;
  for (const shape of shapes) {
    const through = (to: number): GradualChange | undefined => {
      const from = startOf(shape, mean, to);
      return from === undefined || Math.abs(to - from) < from * leastChange ? undefined : { quarters, from, to, shape };
    };
    const to = arrival === 'stated' ? roundedBpm(points[last]!.tempo) : freeArrival(line, first, last, through);
    const solved = to === undefined ? undefined : through(to);
    if (!solved) continue;
    const deviation = furthestOff(line, first, last, solved, best?.deviation ?? tolerance);
    if (deviation > (best?.deviation ?? tolerance)) continue;
    const round = roundest(solved.from, deviation, (from, enough) => furthestOff(line, first, last, { ...solved, from }, enough));
    best = { first, last, fromTick, toTick, from: round.value, to: solved.to, shape, deviation: round.deviation };
  }
  return best;
}

/**
 * The tempo a run arrives at where the point behind it says another: the next change begins there, or the tempo jumps. It is the one with
 * which the change is as much before the steps as behind them, first in the middle, then over all points.
 */
function freeArrival(line: Line, first: number, last: number, through: (to: number) => GradualChange | undefined): number | undefined {
  const lastStep = tempoToBpm(line.points[last - 1]!.tempo);
  const middle = (first + last) >> 1;
  const solve = (lean: (change: GradualChange) => number, least: number, most: number): number | undefined => {
    const at = (to: number): number | undefined => ((change) => change && lean(change))(through(to));
    let [low, high] = [least, most];
    const [atLow, atHigh] = [at(low), at(high)];
    if (atLow === undefined || atHigh === undefined || Math.sign(atLow) === Math.sign(atHigh)) return undefined;
    for (let i = 0; i < 40; i++) {
      const to = (low + high) / 2;
      const its = at(to);
      if (its === undefined) return undefined;
      if (Math.sign(its) === Math.sign(atLow)) low = to;
      else high = to;
    }
    return (low + high) / 2;
  };
  const rough = solve((change) => ahead(line, first, middle, change), lastStep * 0.85, lastStep * 1.15);
  const change = rough === undefined ? undefined : through(rough);
  if (!change || furthestOff(line, first, last, change, line.tolerance * 2) > line.tolerance * 2) return undefined;
  const mean = (change: GradualChange): number => {
    let sum = 0;
    // Steps are on one side at their ends and on the other in their middles.
    for (let i = first; i < last; i++) sum += ahead(line, first, i, change) + ahead(line, first, i, change, 0.5);
    return sum;
  };
  const fine = solve(mean, rough! * 0.97, rough! * 1.03) ?? rough!;
  const off = (to: number, enough: number): number => ((change) => (change ? furthestOff(line, first, last, change, enough) : Infinity))(through(to));
  return roundest(fine, off(fine, Infinity), off).value;
}

/** By how many seconds the steps are behind a change at point `i`, or within the step that begins there. */
function ahead({ points, seconds, ticksPerQuarter }: Line, first: number, i: number, change: GradualChange, within = 0): number {
  const into = within === 0 ? 0 : ((points[i + 1]!.atTick - points[i]!.atTick) / ticksPerQuarter) * within;
  return seconds[i]! + (into * points[i]!.tempo) / 1_000_000 - seconds[first]! - secondsInto(change, (points[i]!.atTick - points[first]!.atTick) / ticksPerQuarter + into);
}

/** A tempo in BPM with three decimals where that is the same tempo in the file: 434783 µs is 138. */
function roundedBpm(tempo: number): number {
  const near = Math.round(tempoToBpm(tempo) * 1000) / 1000;
  return Math.round(60_000_000 / near) === tempo ? near : tempoToBpm(tempo);
}

/** The roundest tempo that is as good as the one solved: steps are whole microseconds, so what is solved from them has a tail. */
function roundest(solved: number, deviation: number, off: (value: number, enough: number) => number): { value: number; deviation: number } {
  for (const unit of [1, 10, 100, 1000]) {
    const value = Math.round(solved * unit) / unit;
    if (Math.abs(value - solved) > solved * 0.001) continue;
    const its = off(value, deviation + 0.00005);
    if (its <= deviation + 0.00005) return { value, deviation: its };
  }
  return { value: solved, deviation };
}

/** The tempo with which a change begins that goes to `to` and has the mean tempo `mean`: arithmetic over time, logarithmic over beats. */
function startOf(shape: Shape, mean: number, to: number): number | undefined {
  if (shape === 'over time') return 2 * mean - to > 0 ? 2 * mean - to : undefined;
  // The logarithmic mean (to − from) / ln(to / from) rises with `from`.
  let [low, high] = [to * 1e-4, to * 1e4];
  for (let i = 0; i < 100 && high - low > 1e-10 * low; i++) {
    const from = Math.sqrt(low * high);
    const its = Math.abs(to - from) < 1e-12 * to ? to : (to - from) / Math.log(to / from);
    if (its < mean) low = from;
    else high = from;
  }
  return Math.sqrt(low * high);
}

/** Greatest distance between steps and change: at the points, and within a step where the change passes through its tempo. Beyond `enough` the first that is found. */
function furthestOff({ points, seconds, ticksPerQuarter }: Line, first: number, last: number, change: GradualChange, enough: number): number {
  const start = points[first]!.atTick;
  const offIn = (i: number): number => {
    const [q, next] = [(points[i]!.atTick - start) / ticksPerQuarter, (points[i + 1]!.atTick - start) / ticksPerQuarter];
    const at = (place: number): number => Math.abs(seconds[i]! - seconds[first]! + ((place - q) * points[i]!.tempo) / 1_000_000 - secondsInto(change, place));
    const turn = quarterAtTempo(change, tempoToBpm(points[i]!.tempo));
    return Math.max(at(next), turn > q && turn < next ? at(turn) : 0);
  };
  // In the middle the distance is greatest as a rule: most of what fits badly is told by three looks.
  let most = Math.max(...[0.5, 0.25, 0.75].map((part) => offIn(first + Math.floor((last - first) * part))));
  for (let i = first; i < last && most <= enough; i++) most = Math.max(most, offIn(i));
  return most;
}

/** Where in a change a tempo is reached. */
function quarterAtTempo({ quarters, from, to, shape }: GradualChange, bpm: number): number {
  if (shape === 'over beats') return ((bpm - from) * quarters) / (to - from);
  return ((bpm * bpm - from * from) * quarters) / (to * to - from * from);
}
