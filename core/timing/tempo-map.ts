import { ticksPerSecond, type Division } from '../smf/division.ts';
import type { TempoPoint } from './timing.ts';

/** Without a tempo event the tempo is 120 BPM (SMF 1.0). */
export const defaultTempo = 500_000;

/**
 * Ticks to seconds and back. Sums are kept as whole microsecond-ticks, so nothing drifts:
 * seconds are `sums / (ticksPerQuarter · 10⁶)`.
 */
export interface TempoMap {
  readonly ticks: Float64Array;
  readonly tempos: Float64Array;
  /** Microseconds × ticksPerQuarter from tick 0 to each point. */
  readonly sums: Float64Array;
  /** `sums` units in one second. */
  readonly scale: number;
}

/**
 * A map from tempo points in tick order; the last of several on one tick counts. Frame-based divisions have
 * one speed and obey no tempo.
 */
export function tempoMap(points: readonly TempoPoint[], division: Division): TempoMap {
  if (division.kind === 'smpte') return fixedMap(division);
  const used = effective(points);
  const sums = new Float64Array(used.length);
  for (let i = 1; i < used.length; i++)
    sums[i] = sums[i - 1]! + (used[i]!.atTick - used[i - 1]!.atTick) * used[i - 1]!.tempo;
  return {
    ticks: Float64Array.from(used, (p) => p.atTick),
    tempos: Float64Array.from(used, (p) => p.tempo),
    sums,
    scale: division.ticksPerQuarter * 1_000_000,
  };
}

/** Tempos as they count: from the beginning on, and one on a tick. */
export function effective(points: readonly TempoPoint[]): TempoPoint[] {
  const used: TempoPoint[] = [{ atTick: 0, tempo: defaultTempo }];
  for (const point of points) {
    if (used.at(-1)!.atTick === point.atTick) used.pop();
    used.push(point);
  }
  return used;
}

function fixedMap(division: Extract<Division, { kind: 'smpte' }>): TempoMap {
  return {
    ticks: Float64Array.of(0),
    tempos: Float64Array.of(1),
    sums: Float64Array.of(0),
    scale: ticksPerSecond(division),
  };
}

/** Index of the last entry that is not above `value`; entries ascend and the first is 0. */
function lastNotAbove(entries: Float64Array, value: number): number {
  let low = 0;
  let high = entries.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (entries[middle]! <= value) low = middle;
    else high = middle - 1;
  }
  return low;
}

export function ticksToSeconds(map: TempoMap, atTick: number): number {
  const i = lastNotAbove(map.ticks, atTick);
  return (map.sums[i]! + (atTick - map.ticks[i]!) * map.tempos[i]!) / map.scale;
}

/** The place of a time in seconds, in ticks and parts of ticks. */
export function secondsToExactTicks(map: TempoMap, seconds: number): number {
  const sum = Math.max(0, seconds) * map.scale;
  const i = lastNotAbove(map.sums, sum);
  return map.ticks[i]! + (sum - map.sums[i]!) / map.tempos[i]!;
}

/** The nearest tick to a time in seconds. */
export const secondsToTicks = (map: TempoMap, seconds: number): number =>
  Math.round(secondsToExactTicks(map, seconds));

/** Tempo in force at a tick, microseconds per quarter. */
export const tempoAt = (map: TempoMap, atTick: number): number =>
  map.tempos[lastNotAbove(map.ticks, atTick)]!;

/**
 * Greatest distance in seconds between two maps of one division, at any tick: they are straight between
 * their points, so it is at one of these.
 */
export function greatestDistance(one: TempoMap, other: TempoMap): number {
  let most = 0;
  for (const { ticks } of [one, other])
    for (const tick of ticks)
      most = Math.max(most, Math.abs(ticksToSeconds(one, tick) - ticksToSeconds(other, tick)));
  return most;
}
