import { ticksPerSecond, type Division } from '../smf/division.ts';
import type { Meter } from './timing.ts';

/** Bars that share one meter. */
export interface MeterSpan {
  readonly atTick: number;
  /** Bar that begins at `atTick`, from 1. */
  readonly bar: number;
  readonly numerator: number;
  readonly denominator: number;
  /** Length of a beat (one denominator note) in ticks; not always a whole number. */
  readonly beatTicks: number;
  readonly barTicks: number;
}

/** Bars and beats from 1, ticks within the beat from 0. */
export interface Position {
  readonly bar: number;
  readonly beat: number;
  readonly tick: number;
}

export type MeterMap = readonly MeterSpan[];

/**
 * The first tick that is not before an exact place: where ticks cannot say a bar line, the bar begins with
 * the tick behind it.
 */
const firstTick = (exact: number): number => Math.max(0, Math.ceil(exact - 1e-9));

/** Ticks of a quarter note; in frame-based files, which know none, of half a second (120 BPM). */
export const quarterTicks = (division: Division): number =>
  division.kind === 'ppq' ? division.ticksPerQuarter : ticksPerSecond(division) / 2;

/**
 * Bars from meters in tick order. Without one the meter is 4/4 (SMF 1.0). A new meter begins a new bar,
 * also inside one, which is then cut short; the same meter stated again changes nothing.
 */
export function meterMap(meters: readonly Meter[], division: Division): MeterMap {
  const quarter = quarterTicks(division);
  const spans: MeterSpan[] = [span({ atTick: 0, numerator: 4, denominator: 4 }, 1, quarter)];
  for (const meter of meters) {
    const last = spans.at(-1)!;
    if (last.numerator === meter.numerator && last.denominator === meter.denominator) continue;
    const bar =
      last.bar +
      Math.floor((meter.atTick - last.atTick) / last.barTicks + 1e-9) +
      Number(intoBar(last, meter.atTick) >= 1);
    if (last.atTick === meter.atTick) spans.pop();
    spans.push(span(meter, last.atTick === meter.atTick ? last.bar : bar, quarter));
  }
  return spans;
}

function span({ atTick, numerator, denominator }: Meter, bar: number, quarter: number): MeterSpan {
  const beatTicks = (quarter * 4) / denominator;
  return { atTick, bar, numerator, denominator, beatTicks, barTicks: beatTicks * numerator };
}

/** Ticks from the bar line before a tick of a span; less than one is on the line. */
function intoBar({ atTick, barTicks }: MeterSpan, tick: number): number {
  return tick - atTick - Math.floor((tick - atTick) / barTicks + 1e-9) * barTicks;
}

function spanBy(map: MeterMap, reached: (span: MeterSpan) => boolean): MeterSpan {
  let low = 0;
  let high = map.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (reached(map[middle]!)) low = middle;
    else high = middle - 1;
  }
  return map[low]!;
}

export function positionAt(map: MeterMap, atTick: number): Position {
  const s = spanBy(map, (x) => x.atTick <= atTick);
  const bars = Math.floor((atTick - s.atTick) / s.barTicks + 1e-9);
  const within = Math.max(0, atTick - s.atTick - bars * s.barTicks);
  const beats = Math.floor(within / s.beatTicks + 1e-9);
  return {
    bar: s.bar + bars,
    beat: beats + 1,
    tick: Math.max(0, Math.floor(within - beats * s.beatTicks + 1e-9)),
  };
}

/**
 * Where the span numbered `n` begins, counted by the meter before it: a place in the bar that it cuts
 * short, where it cuts one.
 */
export function positionBefore(map: MeterMap, n: number): Position {
  const { atTick } = map[n]!;
  return n === 0 ? { bar: 1, beat: 1, tick: 0 } : positionAt(map.slice(n - 1, n), atTick);
}

/** Tick where a bar begins: the first one in it. */
export function barTick(map: MeterMap, bar: number): number {
  const s = spanBy(map, (x) => x.bar <= bar);
  return firstTick(s.atTick + (bar - s.bar) * s.barTicks);
}

/**
 * The bar that a meter beginning at a tick cuts short: how many of its beats are left. Undefined where it
 * begins on a bar line.
 */
export function cutBar(
  map: MeterMap,
  tick: number,
): { readonly bar: number; readonly beats: number; readonly of: number } | undefined {
  const at = map.findIndex((s) => s.atTick === tick);
  const before = map[at - 1];
  const left = before ? intoBar(before, tick) : 0;
  if (!before || left < 1 || before.barTicks - left < 1) return undefined;
  return {
    bar: map[at]!.bar - 1,
    beats: Math.round((left / before.beatTicks) * 100) / 100,
    of: before.numerator,
  };
}

/** How many bars there are up to a tick; a tick on a bar line ends the bar before it. At least one. */
export function barsUntil(map: MeterMap, endTick: number): number {
  const last = positionAt(map, endTick);
  return Math.max(1, last.beat === 1 && last.tick === 0 ? last.bar - 1 : last.bar);
}

export const meterAt = (map: MeterMap, atTick: number): MeterSpan =>
  spanBy(map, (x) => x.atTick <= atTick);

/** `17.3.120` */
export const positionText = ({ bar, beat, tick }: Position): string => `${bar}.${beat}.${tick}`;

/** Tick of a position; undefined where its bar has no such beat. Beats may be left out (1), and ticks (0). */
export function tickOf(
  map: MeterMap,
  { bar, beat = 1, tick = 0 }: { bar: number; beat?: number; tick?: number },
): number | undefined {
  if (bar < 1 || beat < 1 || tick < 0) return undefined;
  const s = spanBy(map, (x) => x.bar <= bar);
  if (beat > s.numerator || tick >= Math.ceil(s.beatTicks)) return undefined;
  return firstTick(s.atTick + (bar - s.bar) * s.barTicks + (beat - 1) * s.beatTicks + tick);
}

/** `17`, `17.3` or `17.3.120` as it is typed; undefined where it is none. */
export function parsePosition(
  text: string,
): { bar: number; beat?: number; tick?: number } | undefined {
  const found = /^\s*(\d{1,9})(?:[.:\s](\d{1,5}))?(?:[.:\s](\d{1,7}))?\s*$/.exec(text);
  if (!found) return undefined;
  const [, bar, beat, tick] = found;
  return {
    bar: Number(bar),
    ...(beat ? { beat: Number(beat) } : {}),
    ...(tick ? { tick: Number(tick) } : {}),
  };
}
