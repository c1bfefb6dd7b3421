import { barTick, type MeterMap } from '../timing/meter-map.ts';
import { readChord } from './read-chord.ts';

/** A chord to stand at a tick, by its symbol. */
export interface ChordPoint {
  readonly atTick: number;
  readonly text: string;
}

export interface Typed {
  readonly points: readonly ChordPoint[];
  /** How many bars were typed. */
  readonly bars: number;
}

/** What in a typed line is no chord, and in which of its bars, from 1. */
export interface NoChord {
  readonly typed: string;
  readonly bar: number;
}

/** Goes on with the chord before it: for the place of one, or for a whole bar. */
const holds = new Set(['.', '-', '/', '%', '_']);

/**
 * Chords as they are typed: `Dm7 G7/B | Cmaj9`. Bars are parted by `|` or by lines, and divided evenly among
 * what stands in them; `.` goes on with the chord before it, and so does a bar with nothing or `%` in it.
 */
export function readTyped(text: string, meters: MeterMap, fromBar: number): Typed | NoChord {
  const bars = text
    .trim()
    .replaceAll('||', '|')
    .replace(/^\|/, '')
    .replace(/\|$/, '')
    .split(/\n\s*\|?|\|/)
    .map((bar) => bar.trim().split(/\s+/).filter(Boolean));
  const points: ChordPoint[] = [];
  for (const [n, said] of bars.entries()) {
    const [from, to] = [barTick(meters, fromBar + n), barTick(meters, fromBar + n + 1)];
    for (const [place, symbol] of said.entries()) {
      if (holds.has(symbol)) continue;
      const read = readChord(symbol);
      if (!read) return { typed: symbol, bar: n + 1 };
      points.push({
        atTick: from + within(place, said.length, to - from, beatsOf(meters, fromBar + n)),
        text: read.text,
      });
    }
  }
  return { points, bars: bars.length };
}

/** Ticks into a bar of the n-th of its chords: on its beats where there are as many. */
function within(place: number, count: number, ticks: number, beats: number): number {
  const part = place / count;
  return Math.round(
    count <= beats ? (Math.floor(part * beats + 1e-9) / beats) * ticks : part * ticks,
  );
}

function beatsOf(meters: MeterMap, bar: number): number {
  return (meters.findLast((m) => m.bar <= bar) ?? meters[0]!).numerator;
}

/** Chords as they would be typed: bar by bar from one to another, both included. */
export function asTyped(
  points: readonly ChordPoint[],
  meters: MeterMap,
  fromBar: number,
  toBar: number,
): string {
  const bars: string[] = [];
  for (let bar = fromBar; bar <= toBar; bar++) {
    const [from, to] = [barTick(meters, bar), barTick(meters, bar + 1)];
    const its = points.filter((p) => p.atTick >= from && p.atTick < to);
    bars.push(typedBar(its, from, to, beatsOf(meters, bar)));
  }
  return bars.join(' | ');
}

/** One bar: alone at its beginning, evenly divided, or beat by beat. */
function typedBar(its: readonly ChordPoint[], from: number, to: number, beats: number): string {
  if (its.length === 0) return '%';
  const at = (n: number, count: number): number => from + within(n, count, to - from, beats);
  if (its.every((p, n) => p.atTick === at(n, its.length))) return its.map((p) => p.text).join(' ');
  const most = Math.max(beats, 1) * 4;
  for (const count of [beats, beats * 2, most]) {
    const slots = Array.from({ length: count }, () => '.');
    const fits = its.every((p) => {
      const n = Math.round(((p.atTick - from) / (to - from)) * count);
      if (at(n, count) !== p.atTick) return false;
      slots[n] = p.text;
      return true;
    });
    if (fits) return slots.join(' ');
  }
  return its.map((p) => p.text).join(' ');
}
