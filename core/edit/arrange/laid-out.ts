import type { EventValue } from '../../smf/events.ts';
import type { Song } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import {
  barTick,
  barsUntil,
  meterAt,
  meterMap,
  quarterTicks,
  type MeterMap,
} from '../../timing/meter-map.ts';
import { meterEvent } from '../edit-map.ts';
import { joinedStretches, type Arrangement, type Stretch } from './stretches.ts';

export interface PlainMeter {
  readonly numerator: number;
  readonly denominator: number;
}

/** Bars of a song in an order: old ones, the last not included (infinite: to its end), or empty ones. */
export type Part =
  | { readonly from: number; readonly to: number }
  | { readonly empty: number; readonly meter?: PlainMeter | undefined };

export interface LaidOut {
  readonly arrangement: Arrangement;
  /** Meters that bars need to be as long as they were. */
  readonly meters: readonly EventValue[];
  /** Bars (as they are now) that no meter can say, so that bar lines behind them lie elsewhere. */
  readonly unsaid: readonly number[];
}

/** Bars of a song, with what is needed to lay them out. */
export interface BarsOf {
  readonly map: MeterMap;
  readonly bars: number;
}

export function barsOf(song: Song): BarsOf {
  const { meters, endTick } = timingOf(song);
  const map = meterMap(meters, song.division);
  return { map, bars: barsUntil(map, endTick) };
}

/** Parts without those that hold nothing, and with neighbours that go on as one. */
export function joinedParts(parts: readonly Part[]): Part[] {
  const joined: Part[] = [];
  for (const part of parts) {
    const last = joined.at(-1);
    if ('empty' in part) {
      if (part.empty > 0) joined.push(part);
    } else if (part.from >= part.to) continue;
    else if (last && !('empty' in last) && last.to === part.from)
      joined[joined.length - 1] = { from: last.from, to: part.to };
    else joined.push(part);
  }
  return joined;
}

/** The bars of a song in the order of the parts, each beginning on a bar line. */
export function laidOut(song: Song, parts: readonly Part[]): LaidOut {
  const out = new Layout(song);
  const all = joinedParts(parts);
  all.forEach((part, n) => {
    const next = all[n + 1];
    if (!('empty' in part)) out.old(part.from, part.to);
    else out.empty(part.empty, part.meter, next && 'from' in next ? next.from : undefined);
  });
  const endless = all.some((p) => !('empty' in p) && p.to === Infinity);
  return {
    arrangement: {
      stretches: joinedStretches(out.stretches),
      end: endless ? Infinity : out.tick(),
    },
    meters: out.meters,
    unsaid: out.unsaid,
  };
}

const within = 1e-9;

class Layout {
  readonly stretches: Stretch[] = [];
  readonly meters: EventValue[] = [];
  readonly unsaid: number[] = [];
  private readonly song: Song;
  private readonly map: MeterMap;
  private readonly quarter: number;
  /** Where bars end so far, exactly: ticks cannot say every bar line. */
  private at = 0;
  /** Bars so far. */
  private bars = 0;
  private meter: PlainMeter;
  /** Where the last bar that was laid begins, exactly, if it is shorter than its meter says. */
  private short: number | undefined;

  constructor(song: Song) {
    this.song = song;
    this.map = barsOf(song).map;
    this.quarter = quarterTicks(song.division);
    // A meter at the very beginning stays there.
    this.meter = this.map[0]!;
  }

  /** The tick at which the bars so far end. */
  tick = (): number => Math.max(0, Math.ceil(this.at - within));

  private beatTicks = ({ denominator }: PlainMeter): number => (this.quarter * 4) / denominator;
  private barTicks = (meter: PlainMeter): number => this.beatTicks(meter) * meter.numerator;

  /** Says a meter from here on, where another holds, or where it would not begin a bar. */
  private begin(meter: PlainMeter, stands: boolean): void {
    const same =
      meter.numerator === this.meter.numerator && meter.denominator === this.meter.denominator;
    if (same && this.short !== undefined) this.sayShort();
    if (!same || this.short !== undefined) {
      this.at = this.tick();
      if (!stands) this.meters.push(meterEvent(this.at, meter.numerator, meter.denominator));
    }
    this.meter = meter;
    this.short = undefined;
  }

  /** A bar that was cut short by another meter, which does not follow it any more, has one of its own. */
  private sayShort(): void {
    const begins = Math.ceil(this.short! - within);
    const ticks = this.tick() - begins;
    for (let denominator = this.meter.denominator; denominator <= 64; denominator *= 2) {
      const beats = ticks / this.beatTicks({ numerator: 1, denominator });
      if (Math.abs(beats - Math.round(beats)) > within || beats < 1 || beats > 255) continue;
      this.meters.push(meterEvent(begins, Math.round(beats), denominator));
      return;
    }
    this.unsaid.push(this.bars);
  }

  /**
   * Empty bars in a meter that is said, or that of the bar before; where another cut that one short, the
   * other, of the bar that is `next`.
   */
  empty(count: number, said: PlainMeter | undefined, next: number | undefined): void {
    const cutBy = this.short === undefined || next === undefined ? undefined : this.meterOf(next);
    const meter = said ?? cutBy ?? this.meter;
    this.begin(meter, false);
    this.at += count * this.barTicks(meter);
    this.bars += count;
  }

  /** Old bars from `first` up to, not including, `behind`. */
  old(first: number, behind: number): void {
    const { map } = this;
    const from = barTick(map, first);
    const to = behind === Infinity ? Infinity : barTick(map, behind);
    this.begin(this.meterOf(first), from > 0 && this.saysMeterAt(from));
    const at = this.tick();
    const stretch = { from, to, at, ends: Infinity };
    if (to === Infinity) {
      this.stretches.push(stretch);
      return;
    }
    const last = meterAt(map, to - 1);
    const line = (bar: number): number => last.atTick + (bar - last.bar) * last.barTicks;
    const ends = Math.min(line(behind), nextChange(map, last.atTick));
    const begins = last.atTick >= from ? last.atTick : line(first);
    this.at = (last.atTick > from ? at + (last.atTick - from) : this.at) + ends - begins;
    this.bars += behind - first;
    this.meter = { numerator: last.numerator, denominator: last.denominator };
    const cut = ends - line(behind - 1);
    this.short = last.barTicks - cut >= 1 ? this.at - cut : undefined;
    this.stretches.push({ ...stretch, ends: this.tick() });
  }

  private meterOf(bar: number): PlainMeter {
    const { numerator, denominator } = meterAt(this.map, barTick(this.map, bar));
    return { numerator, denominator };
  }

  /** Whether an event says the meter at a tick. */
  private saysMeterAt = (tick: number): boolean =>
    timingOf(this.song).meters.some((m) => m.atTick === tick);
}

const nextChange = (map: MeterMap, atTick: number): number =>
  map.find((s) => s.atTick > atTick)?.atTick ?? Infinity;

/**
 * The bars of a song in the order of the parts on its own bar lines, for tracks that move alone; the first
 * bar whose meter is not that of the bar it would come to, where there is one.
 */
export function laidOnMap(
  song: Song,
  parts: readonly Part[],
): { arrangement: Arrangement } | { clash: { bar: number; at: number } } {
  const { map, bars } = barsOf(song);
  const stretches: Stretch[] = [];
  const all = joinedParts(parts);
  let bar = 1;
  for (const part of all) {
    if ('empty' in part) {
      bar += part.empty;
      continue;
    }
    const until = Math.min(part.to, Math.max(bars + 1, part.from + 1));
    for (const old of turns(map, part.from, until, bar - part.from)) {
      const [was, is] = [old, bar + old - part.from].map((n) => meterOf(map, n));
      if (was !== is) return { clash: { bar: old, at: bar + old - part.from } };
    }
    const [from, at] = [barTick(map, part.from), barTick(map, bar)];
    if (part.to === Infinity) stretches.push({ from, to: Infinity, at, ends: Infinity });
    else {
      bar += part.to - part.from;
      stretches.push({ from, to: barTick(map, part.to), at, ends: barTick(map, bar) });
    }
  }
  const endless = all.some((p) => !('empty' in p) && p.to === Infinity);
  return {
    arrangement: {
      stretches: joinedStretches(stretches),
      end: endless ? Infinity : barTick(map, bar),
    },
  };
}

/**
 * Of bars from `from` to before `until`, and of those that lie `by` bars further, the first and all at
 * which a meter changes or the bar before is cut short: others are as these.
 */
function turns(map: MeterMap, from: number, until: number, by: number): number[] {
  const changes = map.flatMap(({ bar }) => [bar - 1, bar, bar - 1 - by, bar - by]);
  return [from, ...changes].filter((bar) => bar >= from && bar < until).sort((a, b) => a - b);
}

/** A bar by its meter and, where it is cut short, its length. */
function meterOf(map: MeterMap, bar: number): string {
  const from = barTick(map, bar);
  const { numerator, denominator, barTicks } = meterAt(map, from);
  const length = barTick(map, bar + 1) - from;
  return `${numerator}/${denominator}${barTicks - length >= 1 ? ` ${length}` : ''}`;
}
