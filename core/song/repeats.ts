import type { Events } from '../smf/events.ts';
import { barTick, type MeterMap } from '../timing/meter-map.ts';
import { notesOf } from './notes.ts';

/** A span of bars that is heard as one, told from what repeats. */
export interface Proposed {
  /** The same letter for what is alike. */
  readonly name: string;
  /** First and last bar. */
  readonly from: number;
  readonly to: number;
  /** How alike it is to the first of its letter, 0 to 1; of a first one how unlike to all before. */
  readonly sure: number;
}

/** Bars are compared in groups of so many: phrases are four bars long, in long songs eight (common practice). */
const phrase = (bars: number): number => (bars > 64 ? 8 : 4);
/** As much of what is played has to be the same. */
const alike = 0.6;
const mostBars = 5000;
/** Beginnings of notes nearer than this part of a bar are alike. */
const grid = 16;
/** How many notes are told apart in a bar: by channel, key and place, the end of the bar among the places. */
const notesOfBar = 16 * 128 * (grid + 1);

/**
 * Sections of a song told from its notes: phrases that are alike have one letter, and neighbours of one
 * letter that are no repetition stand apart. Costs what the notes cost.
 */
export function proposedSections(
  tracks: readonly Events[],
  meters: MeterMap,
  bars: number,
): Proposed[] {
  // Nobody looks through more by hand; a damaged file may claim millions.
  if (bars > mostBars) return [];
  const played = barContents(tracks, meters, bars);
  const length = phrase(bars);
  const known: { name: string; content: ReadonlySet<number> }[] = [];
  const found: Proposed[] = [];
  for (let from = 1; from <= bars; from += length) {
    const to = Math.min(bars, from + length - 1);
    const content = new Set<number>();
    for (let bar = from; bar <= to; bar++)
      for (const note of played[bar - 1]!) content.add((bar - from) * notesOfBar + note);
    const nearest = known
      .map((k) => ({ name: k.name, share: common(k.content, content) }))
      .sort((a, b) => b.share - a.share)[0];
    if (nearest && nearest.share >= alike) {
      found.push({ name: nearest.name, from, to, sure: nearest.share });
      continue;
    }
    const name = letter(known.length);
    known.push({ name, content });
    found.push({ name, from, to, sure: 1 - (nearest?.share ?? 0) });
  }
  return found;
}

/** Of each bar its notes, each a number below `notesOfBar`. */
function barContents(
  tracks: readonly Events[],
  meters: MeterMap,
  bars: number,
): ReadonlySet<number>[] {
  const lines = Array.from({ length: bars + 1 }, (_, n) => barTick(meters, n + 1));
  const contents = Array.from({ length: bars }, () => new Set<number>());
  for (const events of tracks) {
    const { count, on } = notesOf(events);
    let bar = 0;
    for (let n = 0; n < count; n++) {
      const row = on[n]!;
      const tick = events.atTick[row]!;
      while (bar < bars - 1 && lines[bar + 1]! <= tick) bar++;
      const part = (tick - lines[bar]!) / (lines[bar + 1]! - lines[bar]!);
      const key = (events.status[row]! & 15) * 128 + events.data1[row]!;
      // What begins after the song's last bar line is of its last bar.
      contents[bar]!.add(key * (grid + 1) + Math.min(grid, Math.round(part * grid)));
    }
  }
  return contents;
}

/** The share of what either plays that both play; two that play nothing are alike. */
function common(a: ReadonlySet<number>, b: ReadonlySet<number>): number {
  let both = 0;
  for (const note of a) if (b.has(note)) both++;
  const either = a.size + b.size - both;
  return either === 0 ? 1 : both / either;
}

/** A, B … Z, A2, B2 … */
const letter = (n: number): string =>
  String.fromCharCode(65 + (n % 26)) + (n >= 26 ? String(Math.floor(n / 26) + 1) : '');
