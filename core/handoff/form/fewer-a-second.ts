import type { Division } from '../../smf/division.ts';
import type { TempoPoint } from '../../timing/timing.ts';
import {
  effective,
  secondsToExactTicks,
  tempoMap,
  ticksToSeconds,
} from '../../timing/tempo-map.ts';

/** Kept beyond the stated distance, so that whole microseconds a quarter do not fall short of it. */
const room = 0.0005;
const slowest = 0xffffff;

/**
 * Tempos of which no two are nearer than a receiver can follow: each stands for those that it takes the
 * place of, and what follows begins when it did. Undefined where they are few enough already.
 *
 * @param most tempos a second @param endTick where the song ends
 */
export function fewerASecond(
  tempos: readonly TempoPoint[],
  division: Division,
  most: number,
  endTick: number,
): TempoPoint[] | undefined {
  const stated = effective(tempos);
  const map = tempoMap(stated, division);
  const isFewEnough = (list: readonly TempoPoint[]): boolean => {
    const times = list.map((p) => ticksToSeconds(map, p.atTick));
    return times.every((t, i) => i === 0 || t - times[i - 1]! >= 1 / most);
  };
  if (isFewEnough(stated)) return undefined;
  // A tempo that repeats the one before it would keep a change after it from being followed.
  const points = stated.filter((p, n) => p.tempo !== stated[n - 1]?.tempo);
  if (isFewEnough(points)) return points;
  const gap = 1 / most + room;
  const times = points.map((p) => ticksToSeconds(map, p.atTick));
  const made: TempoPoint[] = [];
  let [tick, behind, next] = [0, 0, 1];
  for (;;) {
    const at = ticksToSeconds(map, tick);
    while (next < points.length && points[next]!.atTick <= tick) next++;
    if (next === points.length) break;
    const later = Math.ceil(secondsToExactTicks(map, at + gap) - 1e-9);
    const until = times[next]! - at >= gap ? points[next]!.atTick : later;
    if (until >= endTick && until !== points[next]!.atTick) break;
    const tempo = lastingFrom(tick, until, ticksToSeconds(map, until) - at - behind, map.scale);
    made.push({ atTick: tick, tempo });
    behind += ((until - tick) * tempo) / map.scale - (ticksToSeconds(map, until) - at);
    tick = until;
  }
  const rest = ticksToSeconds(map, endTick) - ticksToSeconds(map, tick) - behind;
  const last =
    next === points.length
      ? points[next - 1]!.tempo
      : lastingFrom(tick, Math.max(tick + 1, endTick), rest, map.scale);
  return [...made, { atTick: tick, tempo: last }];
}

/** The tempo at which so many ticks last so many seconds, as nearly as whole microseconds say it. */
const lastingFrom = (from: number, to: number, seconds: number, scale: number): number =>
  Math.min(slowest, Math.max(1, Math.round((seconds * scale) / (to - from))));
