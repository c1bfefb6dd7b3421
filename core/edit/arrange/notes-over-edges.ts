import { percussionChannel } from '../../instruments/general-midi.ts';
import { channelEvent, eventAt, type Events, type EventValue } from '../../smf/events.ts';
import { notesOf, type Notes } from '../../song/notes.ts';
import { RowSets } from './row-sets.ts';
import { endOf, placed, type Arrangement, type Stretch } from './stretches.ts';
import { firstRow } from './values-at.ts';
import { order, type Put } from './woven.ts';

/**
 * What becomes of notes that sound over an edge: each side keeps its part, the second struck anew; they
 * stay one note, from where they begin to where they end now; they go with their beginning, as long as
 * they were.
 */
export const edges = ['cut', 'kept whole', 'with their beginning'] as const;
export type Edges = (typeof edges)[number];

/** How the notes of a track go over the edges. */
export interface NotesOver {
  readonly puts: readonly Put[];
  /** Rows that are not taken over, for each stretch. */
  readonly without: RowSets;
  /** Notes that end at an edge, were struck anew behind one, or ring over one as they did. */
  readonly cut: number;
  readonly struck: number;
  /** Channels (bits) on which notes are struck anew as each stretch begins. */
  readonly struckOn: readonly number[];
  readonly ring: number;
  /** Parts of notes too short to be meant, which are left off. */
  readonly slivers: number;
}

/**
 * Notes of a track over the edges of an arrangement. A part shorter than `sliver` ticks, and no longer than
 * the other part, is left off: it is a note begun a little early or held a little long. Notes that ring
 * over an edge end where the next of their key begins; those that hang end with their stretch. Drums, which
 * nobody holds, are not struck anew: a hit goes with its beginning, one a little early with what follows.
 */
export function notesOver(
  events: Events,
  arrangement: Arrangement,
  how: Edges,
  sliver: number,
): NotesOver {
  const over = new Over(events, arrangement, how, sliver);
  arrangement.stretches.forEach((_, n) => over.stretch(n));
  return over;
}

class Over implements NotesOver {
  readonly puts: Put[] = [];
  readonly without = new RowSets();
  cut = 0;
  struck = 0;
  ring = 0;
  slivers = 0;
  readonly struckOn: number[];
  private readonly notes: Notes;
  /** Notes that sound up to or over each edge, by its tick. */
  private readonly crossing: ReadonlyMap<number, readonly number[]>;
  /** Ends that stay where they are, since what they end came over the edge. */
  private readonly kept = new RowSets();
  private paired: Uint8Array | undefined;

  private readonly events: Events;
  private readonly arrangement: Arrangement;
  private readonly how: Edges;
  private readonly sliver: number;

  constructor(events: Events, arrangement: Arrangement, how: Edges, sliver: number) {
    this.events = events;
    this.arrangement = arrangement;
    this.how = how;
    this.sliver = sliver;
    const { stretches } = arrangement;
    this.notes = notesOf(events);
    this.crossing = notesAcross(events, this.notes, stretches);
    this.struckOn = stretches.map(() => 0);
  }

  stretch(n: number): void {
    const { from, to } = this.arrangement.stretches[n]!;
    for (const note of this.crossing.get(from) ?? []) this.comesIn(n, note);
    if (to === Infinity) return;
    for (const note of this.crossing.get(to) ?? [])
      if (this.on(note) >= from) this.goesOut(n, note);
  }

  private isDrum = (row: number): boolean => (this.events.status[row]! & 15) === percussionChannel;

  private on = (note: number): number => this.events.atTick[this.notes.on[note]!]!;
  private off = (note: number): number => {
    const row = this.notes.off[note]!;
    return row === -1 ? Infinity : this.events.atTick[row]!;
  };

  /** A note that began before the stretch, and ends on its first tick or sounds into it. */
  private comesIn(n: number, note: number): void {
    const { stretches } = this.arrangement;
    const stretch = stretches[n]!;
    const [row, offRow] = [this.notes.on[note]!, this.notes.off[note]!];
    // What hangs has an end where it begins.
    if (offRow === -1) return;
    const [began, ends] = [this.on(note), this.off(note)];
    const tail = ends - stretch.from;
    const sounds = this.how === 'cut' && tail > 0;
    const head = stretch.from - began;
    const belongs = this.isDrum(row) ? head < this.sliver : tail >= this.sliver || tail > head;
    if (sounds && belongs) {
      this.put({ ...eventAt(this.events, row), atTick: stretch.at }, 'struck');
      if (ends >= stretch.to) this.endAt(note, endOf(stretch));
      this.struck++;
      this.struckOn[n]! |= 1 << (this.events.status[row]! & 15);
      return;
    }
    if (sounds && !this.isDrum(row)) this.slivers++;
    if (!this.kept.of(n).has(offRow)) this.without.add(n, offRow);
  }

  /** A note that begins in the stretch and ends on its last edge or sounds over it. */
  private goesOut(n: number, note: number): void {
    const stretch = this.arrangement.stretches[n]!;
    const end = endOf(stretch);
    const [began, ends] = [this.on(note), this.off(note)];
    if (ends === stretch.to) return this.endAt(note, end);
    if (this.how !== 'cut' && ends !== Infinity) return this.rings(n, note);
    const head = stretch.to - began;
    const drum = this.isDrum(this.notes.on[note]!);
    if (head < this.sliver && (drum || head < ends - stretch.to) && ends !== Infinity) {
      this.without.add(n, this.notes.on[note]!);
      this.slivers++;
      return;
    }
    this.endAt(note, end);
    this.cut++;
  }

  /** A note that stays whole: to its own end, where that is what follows, else as long as it was. */
  private rings(n: number, note: number): void {
    const { stretches } = this.arrangement;
    const [began, ends, offRow] = [this.on(note), this.off(note), this.notes.off[note]!];
    this.ring++;
    if (this.how === 'kept whole')
      for (let k = n + 1; k < stretches.length; k++) {
        const [before, here] = [stretches[k - 1]!, stretches[k]!];
        if (here.from < before.to || ends <= here.from) break;
        if (ends > here.to) continue;
        if (ends === here.to) this.endAt(note, endOf(here));
        else this.kept.add(k, offRow);
        return;
      }
    const from = placed(stretches[n]!, began);
    const wanted = Math.min(from + ends - began, this.arrangement.end);
    this.endAt(note, this.untilNext(n, note, wanted));
  }

  /** A tick, or the one before it on which the next note of the key begins behind a stretch. */
  private untilNext(n: number, note: number, tick: number): number {
    const { atTick, status, data1, data2 } = this.events;
    const on = this.notes.on[note]!;
    const { stretches } = this.arrangement;
    for (let k = n + 1; k < stretches.length && stretches[k]!.at < tick; k++) {
      const here = stretches[k]!;
      const until = Math.min(here.to, here.from + tick - here.at);
      const end = firstRow(this.events, until);
      for (let row = firstRow(this.events, here.from); row < end; row++) {
        if (status[row]! >> 4 !== 9 && status[row]! >> 4 !== 8) continue;
        if (((status[row]! ^ status[on]!) & 15) !== 0 || data1[row] !== data1[on]) continue;
        if (status[row]! >> 4 === 9 && data2[row] !== 0) return placed(here, atTick[row]!);
        // An end that ends nothing would end this note.
        if (!this.endsNote(row)) this.without.add(k, row);
      }
    }
    return tick;
  }

  private endsNote(row: number): boolean {
    if (!this.paired) {
      this.paired = new Uint8Array(this.events.count);
      for (const off of this.notes.off) if (off !== -1) this.paired[off] = 1;
    }
    return this.paired[row] === 1;
  }

  /** Ends a note by the message that ended it, or by a plain one where it has none. */
  private endAt(note: number, atTick: number): void {
    const offRow = this.notes.off[note]!;
    const on = this.notes.on[note]!;
    const { status, data1 } = this.events;
    this.put(
      offRow === -1
        ? channelEvent(atTick, 0x80 | (status[on]! & 15), data1[on]!, 64)
        : { ...eventAt(this.events, offRow), atTick },
      'ends',
    );
  }

  private put(event: EventValue, place: 'ends' | 'struck'): void {
    this.puts.push({ event, order: order[place] });
  }
}

/** For each edge the notes that begin before it and end at it or behind, in their order. */
function notesAcross(
  events: Events,
  notes: Notes,
  stretches: readonly Stretch[],
): Map<number, number[]> {
  const edgeTicks = [...new Set(stretches.flatMap(({ from, to }) => [from, to]))]
    .filter((tick) => tick > 0 && tick < Infinity)
    .sort((a, b) => a - b);
  const across = new Map(edgeTicks.map((tick) => [tick, [] as number[]]));
  let next = 0;
  for (let n = 0; n < notes.count && next < edgeTicks.length; n++) {
    const on = events.atTick[notes.on[n]!]!;
    const off = notes.off[n] === -1 ? Infinity : events.atTick[notes.off[n]!]!;
    while (next < edgeTicks.length && edgeTicks[next]! <= on) next++;
    for (let e = next; e < edgeTicks.length && edgeTicks[e]! <= off; e++)
      across.get(edgeTicks[e]!)!.push(n);
  }
  return across;
}
