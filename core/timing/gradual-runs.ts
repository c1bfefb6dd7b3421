import { toleranceOf } from './coarseness.ts';
import { bestFit, leastChange, type GradualRun } from './gradual-fit.ts';
import type { TempoPoint } from './timing.ts';

export type { GradualRun } from './gradual-fit.ts';

/** Nearer than this nothing needs to be. */
const near = 0.0002;
/** With fewer points anything is a gradual change. */
const leastPoints = 4;

/**
 * How many points a change is tried to begin at before the search goes on without asking whether it reaches
 * the turn.
 */
const lead = 4;
/**
 * Runs of coarse steps are looked through for where they arrive up to this length; longer ones are dense,
 * and searched by halves.
 */
const lookedThrough = 64;

/**
 * Gradual changes in tempo points of ascending ticks: runs that go one way and follow a closed form as
 * nearly as their steps allow.
 */
export function gradualRuns(points: readonly TempoPoint[], ticksPerQuarter: number): GradualRun[] {
  const runs: GradualRun[] = [];
  const seconds = secondsAt(points, ticksPerQuarter);
  const tolerance = toleranceOf(points, ticksPerQuarter);
  const fit: Fit = (first, last, arrival = 'stated') =>
    last - first + 1 < leastPoints || last >= points.length
      ? undefined
      : bestFit(
          { points, seconds, ticksPerQuarter, tolerance: tolerance(first, last) },
          first,
          last,
          arrival,
        );
  for (let first = 0; first + leastPoints <= points.length;) {
    const turn = oneWayUntil(points, first);
    first = changesEnough(points, first, turn)
      ? runsUntil(turn, first, fit, points, runs)
      : Math.max(turn, first + 1);
  }
  return runs.filter((run) => !isTapped(points, ticksPerQuarter, run));
}

/**
 * A run of fewer steps is none where the tempo around it goes up and down all the time: a map that was
 * tapped has such by chance.
 */
const leastAmongTurns = 8;
const lookedAround = 12;
const [mostTurns, mostTurnsShare, mostQuarters] = [2, 0.3, 1.01];

function isTapped(
  points: readonly TempoPoint[],
  ticksPerQuarter: number,
  { first, last }: GradualRun,
): boolean {
  if (last - first >= leastAmongTurns) return false;
  const near = (i: number): boolean =>
    i > 0 &&
    i < points.length &&
    points[i]!.atTick - points[i - 1]!.atTick <= ticksPerQuarter * mostQuarters;
  let [from, to] = [first, last];
  while (first - from < lookedAround && near(from)) from--;
  while (to - last < lookedAround && near(to + 1)) to++;
  let [turns, way] = [0, 0];
  for (let i = from + 1; i <= to; i++) {
    const next = Math.sign(points[i]!.tempo - points[i - 1]!.tempo);
    if (next !== 0 && way !== 0 && next !== way) turns++;
    way = next || way;
  }
  return turns > mostTurns && turns >= (to - from) * mostTurnsShare;
}

/** Looks for runs in tempos that go one way from `first` to `turn`; gives the point at which to look on. */
function runsUntil(
  turn: number,
  begin: number,
  fit: Fit,
  points: readonly TempoPoint[],
  runs: GradualRun[],
): number {
  // A change begins where others end, or a few points behind: what was before it may go its way too.
  // Further on, only dense runs are looked for.
  let tries = 0;
  let first = begin;
  while (first < turn && changesEnough(points, first, turn)) {
    if (points[first]!.tempo === points[first + 1]!.tempo) {
      first++;
      continue;
    }
    const run =
      tries++ < lead ? fromHere(fit, points, first, turn) : longest(fit, points, first, turn);
    if (!run) {
      first++;
      continue;
    }
    runs.push(run);
    first = run.last;
    tries = 0;
  }
  return Math.max(first, turn);
}

/** A run from `first` to the turn, or the longest before it, unless one that begins a point later reaches the turn. */
function fromHere(
  fit: Fit,
  points: readonly TempoPoint[],
  first: number,
  turn: number,
): GradualRun | undefined {
  const reaching = atTurn(fit, first, turn);
  if (reaching || atTurn(fit, first + 1, turn)) return reaching;
  return turn - first < lookedThrough
    ? latest(fit, first, turn)
    : longest(fit, points, first, turn);
}

const changesEnough = (
  points: readonly TempoPoint[],
  first: number,
  last: number,
  least = leastChange * 0.9,
): boolean => Math.abs(points[last]!.tempo - points[first]!.tempo) >= points[first]!.tempo * least;

type Fit = (first: number, last: number, arrival?: 'stated' | 'free') => GradualRun | undefined;

/**
 * A run that arrives where the tempos turn, or one point behind: the last step makes up for what the others
 * left and may overshoot.
 */
function atTurn(fit: Fit, first: number, turn: number): GradualRun | undefined {
  const nearer = (a: GradualRun | undefined, b: GradualRun | undefined): GradualRun | undefined =>
    a && b ? (b.deviation < a.deviation ? b : a) : (a ?? b);
  const stated = nearer(fit(first, turn), fit(first, turn + 1));
  if (stated && stated.deviation < near) return stated;
  const free = nearer(fit(first, turn, 'free'), fit(first, turn + 1, 'free'));
  // Shreds that hold the tempo each began with arrive half a shred early.
  return stated && free && free.last === stated.last && free.deviation < stated.deviation / 2
    ? free
    : (stated ?? free);
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
  for (let i = 1; i < points.length; i++)
    sums[i] =
      sums[i - 1]! +
      ((points[i]!.atTick - points[i - 1]!.atTick) * points[i - 1]!.tempo) /
        (ticksPerQuarter * 1_000_000);
  return sums;
}

/**
 * Last point of those that only rise, or only fall, from `first`. Rounded tempos may be stated twice on the
 * way, but not at its ends.
 */
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

/**
 * The longest run from `first` that fits, looked for in doubling strides from where the tempo has changed
 * enough on, and then between the last two.
 */
function longest(
  fit: Fit,
  points: readonly TempoPoint[],
  first: number,
  furthest: number,
): GradualRun | undefined {
  let low = first + leastPoints - 1;
  for (let high = furthest; low < high;) {
    const middle = (low + high) >> 1;
    if (changesEnough(points, first, middle, leastChange * 1.1)) high = middle;
    else low = middle + 1;
  }
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
