import { META, eventAt, meta, type EventValue } from '../../smf/events.ts';
import { meantType } from '../../smf/own-events.ts';
import { findTrack, type Song, type Track } from '../../song/song.ts';
import { markText, timingOf } from '../../song/timing-of.ts';
import { quarterTicks } from '../../timing/meter-map.ts';
import type { Mark } from '../../timing/marks.ts';
import type { Section } from '../../timing/sections.ts';
import { RowSets } from './row-sets.ts';
import { endOf, placed, type Stretch } from './stretches.ts';
import { firstRow } from './values-at.ts';
import { order, type Put } from './woven.ts';

/** Marks of tracks that do not simply go with their ticks. */
export interface MarksMoved {
  readonly puts: readonly { readonly track: string; readonly put: Put }[];
  /** Rows that are not taken over: by track, for each stretch. */
  readonly without: ReadonlyMap<string, RowSets>;
  /** Texts of markers of what is gone that begin at a join now, since their music goes on there. */
  readonly kept: readonly string[];
}

/**
 * Markers, cue points and sections over the edges of stretches. A mark that stands less than a sixteenth
 * before an edge names what follows it, and goes with that. A section has its name wherever some of it
 * sounds: it begins and ends anew where it is cut in two, and is one where only something of it is missing or
 * was put in between. A marker of what is gone begins at the join, where its music goes on behind it.
 */
export function marksMoved(song: Song, stretches: readonly Stretch[]): MarksMoved {
  const moved = new Moved(song, stretches);
  const timing = timingOf(song);
  // What belongs to time goes with no bar, see `hold-times.ts`.
  const ofBars = ({ seconds }: Mark): boolean => seconds === undefined;
  const markers = timing.markers.filter(ofBars);
  for (const mark of [...markers, ...timing.cuePoints.filter(ofBars)]) moved.mark(mark);
  for (const section of timing.sections) if (section.marks.every(ofBars)) moved.section(section);
  moved.keep(markers);
  return moved;
}

class Moved implements MarksMoved {
  readonly puts: { track: string; put: Put }[] = [];
  readonly without = new Map<string, RowSets>();
  readonly kept: string[] = [];
  private readonly near: number;
  private readonly edges: readonly number[];

  private readonly song: Song;
  private readonly stretches: readonly Stretch[];

  constructor(song: Song, stretches: readonly Stretch[]) {
    this.song = song;
    this.stretches = stretches;
    this.near = quarterTicks(song.division) / 4;
    this.edges = [...new Set(stretches.flatMap(({ from, to }) => [from, to]))]
      .filter((tick) => tick > 0 && tick < Infinity)
      .sort((a, b) => a - b);
  }

  mark(mark: Mark): void {
    const edge = this.edgeBehind(mark.atTick);
    if (edge === undefined) return;
    const early = edge - mark.atTick;
    const found = this.find(mark);
    if (!found) return;
    this.stretches.forEach((s, n) => {
      if (s.to === edge && s.from <= mark.atTick) this.drop(mark.track, n, found.row);
      if (s.from === edge) this.put(mark.track, found.event, Math.max(0, s.at - early), order.said);
    });
  }

  section({ fromTick, toTick, marks: [first, last] }: Section): void {
    const from = this.edgeBehind(fromTick) ?? fromTick;
    const to = this.edgeNear(toTick);
    const [begin, end] = [this.find(first), this.find(last)];
    if (!begin || !end || from >= to) return;
    const sounds = ({ from: a, to: b }: Stretch): boolean => Math.max(a, from) < Math.min(b, to);
    /** Whether the section goes on from a stretch to the next, without beginning anew. */
    const goesOn = (n: number): boolean => {
      const [one, next] = [this.stretches[n], this.stretches[n + 1]];
      if (!one || !next || !sounds(one) || !sounds(next)) return false;
      return one.to < to && next.from > from;
    };
    this.stretches.forEach((s, n) => {
      const isIn = (tick: number): boolean => tick >= s.from && tick < s.to;
      const beginStays = from === fromTick && isIn(fromTick);
      const endStays = to === toTick && toTick > s.from && isIn(toTick);
      if (isIn(fromTick) && !beginStays) this.drop(first.track, n, begin.row);
      if (isIn(toTick) && !endStays) this.drop(last.track, n, end.row);
      if (!sounds(s)) return;
      if (!goesOn(n - 1) && !beginStays)
        this.put(first.track, begin.event, isIn(from) ? placed(s, from) : s.at, order.said);
      if (!goesOn(n) && !endStays)
        this.put(last.track, end.event, isIn(to) ? placed(s, to) : endOf(s), order.ends);
    });
  }

  /** @param markers in the order of their ticks */
  keep(markers: readonly Mark[]): void {
    const ticks = markers.map((m) => m.atTick);
    for (const [from, to] of gaps(this.stretches)) {
      const mark = markers[lowerBound(ticks, to) - 1];
      const next = ticks[lowerBound(ticks, to)];
      if (!mark || mark.atTick < from || this.edgeBehind(mark.atTick) === to) continue;
      if (next !== undefined && next < to + this.near) continue;
      const found = this.find(mark);
      const behind = this.stretches.filter((s) => s.from === to);
      if (!found || behind.length === 0) continue;
      for (const { at } of behind) this.put(mark.track, found.event, at, order.said);
      this.kept.push(mark.text);
    }
  }

  /** The edge that a tick stands a little before. */
  private edgeBehind(tick: number): number | undefined {
    const edge = this.edges[lowerBound(this.edges, tick + 1)];
    return edge !== undefined && edge - tick < this.near ? edge : undefined;
  }

  /** The edge that a tick stands a little before or behind, or the tick itself. */
  private edgeNear(tick: number): number {
    const at = lowerBound(this.edges, tick);
    const [before, behind] = [this.edges[at - 1], this.edges[at]];
    if (behind !== undefined && behind - tick < this.near) return behind;
    return before !== undefined && tick - before < this.near ? before : tick;
  }

  private find(mark: Mark): { row: number; event: EventValue } | undefined {
    const track = findTrack(this.song, mark.track);
    const row = track && rowOf(this.song, track, mark);
    return row === undefined ? undefined : { row, event: eventAt(track!.events, row) };
  }

  private drop(track: string, stretch: number, row: number): void {
    const its = this.without.get(track) ?? new RowSets();
    this.without.set(track, its);
    its.add(stretch, row);
  }

  private put(track: string, event: EventValue, atTick: number, place: Put['order']): void {
    this.puts.push({ track, put: { event: { ...event, atTick }, order: place } });
  }
}

/** What is in no stretch, up to the end of the last. */
function gaps(stretches: readonly Stretch[]): [from: number, to: number][] {
  const found: [number, number][] = [];
  let end = 0;
  for (const { from, to } of [...stretches].sort((a, b) => a.from - b.from)) {
    if (from > end) found.push([end, from]);
    end = Math.max(end, to);
  }
  return found;
}

/** The row of a mark in its track. */
function rowOf({ encoding }: Song, { events }: Track, mark: Mark): number | undefined {
  for (
    let row = firstRow(events, mark.atTick);
    row < events.count && events.atTick[row] === mark.atTick;
    row++
  ) {
    if (events.status[row] !== META) continue;
    const type = meantType(events, row);
    if (type !== meta.marker && type !== meta.cuePoint) continue;
    if (markText(events, row, encoding) === mark.text) return row;
  }
  return undefined;
}

/** The first place in an ascending list whose value is not below. */
function lowerBound(list: readonly number[], value: number): number {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (list[middle]! < value) low = middle + 1;
    else high = middle;
  }
  return low;
}
