import { barTick, type MeterMap } from '../timing/meter-map.ts';

/** Beats of a stretch of music. */
export interface BeatGrid {
  /** Ticks of the beats, and behind them that of the end. */
  readonly ticks: Float64Array;
  /** Bar of each, from 1. */
  readonly bar: Uint32Array;
  /** Where in its bar each stands. */
  readonly place: Uint8Array;
}

/** Where a beat stands in its bar; chords change most readily at the first. */
export const places = { bar: 0, half: 1, beat: 2, between: 3 } as const;

/** Bars from one up to, not including, another, cut into beats: quarters, dotted ones in 6/8, eighths in 7/8. */
export function beatGrid(map: MeterMap, fromBar: number, toBar: number): BeatGrid {
  const ticks: number[] = [];
  const bars: number[] = [];
  const place: number[] = [];
  let span = 0;
  for (let bar = fromBar; bar < toBar; bar++) {
    while (span + 1 < map.length && map[span + 1]!.bar <= bar) span++;
    const { numerator, denominator, barTicks } = map[span]!;
    const [from, to] = [barTick(map, bar), barTick(map, bar + 1)];
    const beats = beatsOf(numerator, denominator);
    const length = barTicks / beats.count;
    for (let beat = 0; beat < beats.count; beat++) {
      const tick = Math.round(from + beat * length);
      // A bar that the next meter cuts short ends there.
      if (tick >= to) break;
      ticks.push(tick);
      bars.push(bar);
      const half = beats.count % 2 === 0 && beat === beats.count / 2;
      place.push(
        beat === 0 ? places.bar : half ? places.half : beats.weak ? places.between : places.beat,
      );
    }
  }
  ticks.push(barTick(map, toBar));
  return {
    ticks: Float64Array.from(ticks),
    bar: Uint32Array.from(bars),
    place: Uint8Array.from(place),
  };
}

/** Into how many beats a bar is cut; `weak` where they are shorter than quarters. */
function beatsOf(numerator: number, denominator: number): { count: number; weak: boolean } {
  const quarters = (numerator * 4) / denominator;
  if (denominator >= 8 && numerator > 3 && numerator % 3 === 0)
    return { count: numerator / 3, weak: denominator > 8 };
  if (denominator <= 4 || Number.isInteger(quarters))
    return { count: Math.max(1, Math.min(64, Math.round(quarters))), weak: false };
  return { count: Math.min(64, numerator), weak: true };
}
