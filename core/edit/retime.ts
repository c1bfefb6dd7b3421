import { META, meta, type Events } from '../smf/events.ts';
import { pickEvents } from '../smf/event-builder.ts';
import { notesOf } from '../song/notes.ts';
import type { TickSpan } from '../song/scope.ts';
import { apartWords, keepApart, type KeptApart } from './apart.ts';
import { within, type Edited } from './rewrite.ts';

/** A note's place: ticks from, up to and not including, `to`. */
export interface Place {
  readonly from: number;
  readonly to: number;
}

type Move = (place: Place, index: number) => Place;

/** New ticks for a track's rows. Where rows meet on a tick, `rank` −1 goes before the others and 1 behind. */
export interface NewTicks {
  readonly atTick: Float64Array;
  readonly rank: Int8Array;
  readonly moved: number;
  readonly apart: KeptApart;
}

/**
 * Moves notes that begin in a span: `move` gives each its new place. A note never gets shorter than a tick
 * and never lies before the beginning; the number of notes stays. Notes that hang keep hanging. Where a
 * moved note-off meets other events of its tick it stands before them, a moved note-on behind, so that
 * neighbours on one key do not cut each other off. Notes of a key that did not overlap before are kept
 * apart, see {@link keepApart}.
 */
export function retimeNotes(events: Events, span: TickSpan, move: Move): Edited {
  const { atTick, rank, moved, apart } = noteTicks(events, span, move);
  const detail = apartWords(apart);
  if (moved === 0)
    return {
      left:
        apart.stayed > 0
          ? 'Other notes of their keys stand where its notes would go.'
          : 'Its notes are there already.',
    };
  return {
    events: sortedByTick(events, atTick, rank),
    counts: { note: moved },
    ...(detail ? { detail } : {}),
  };
}

/** The ticks that {@link retimeNotes} would give. */
export function noteTicks(events: Events, span: TickSpan, move: Move): NewTicks {
  const notes = notesOf(events);
  const atTick = events.atTick.slice();
  const rank = new Int8Array(events.count);
  let asked = false;
  for (let n = 0; n < notes.count; n++) {
    const on = notes.on[n]!;
    const off = notes.off[n]!;
    const place = {
      from: events.atTick[on]!,
      to: off === -1 ? events.atTick[on]! + 1 : events.atTick[off]!,
    };
    if (!within(span, events, on)) continue;
    const wanted = move(place, on);
    const from = Math.max(0, Math.round(wanted.from));
    const to = Math.max(from + 1, Math.round(wanted.to));
    if (from === place.from && (off === -1 || to === place.to)) continue;
    atTick[on] = from;
    if (off !== -1) atTick[off] = to;
    asked = true;
  }
  const apart = asked ? keepApart(events, notes, atTick) : { cut: 0, stayed: 0 };
  let moved = 0;
  for (let n = 0; n < notes.count; n++) {
    const on = notes.on[n]!;
    const off = notes.off[n]!;
    if (atTick[on] === events.atTick[on] && (off === -1 || atTick[off] === events.atTick[off]))
      continue;
    rank[on] = 1;
    if (off !== -1) rank[off] = -1;
    moved++;
  }
  return { atTick, rank, moved, apart };
}

/**
 * Rows in the order of `before`. What moves by hand or to a grid stays near its neighbours: rows are
 * inserted one by one, which is many times faster where few pass each other; where many do, they are
 * sorted.
 */
function sortedRows(
  rows: readonly number[],
  before: (a: number, b: number) => number,
): Uint32Array {
  const sorted = Uint32Array.from(rows);
  let left = rows.length * mostPassed;
  for (let i = 1; i < sorted.length; i++) {
    const row = sorted[i]!;
    let place = i;
    for (; place > 0 && before(sorted[place - 1]!, row) > 0; place--)
      sorted[place] = sorted[place - 1]!;
    sorted[place] = row;
    left -= i - place;
    if (left < 0) return sorted.sort(before);
  }
  return sorted;
}

/** How many rows each may pass, on average, before inserting them costs more than sorting. */
const mostPassed = 30;

/**
 * The events at new ticks, in order; the end of track stays last, later where it must. `atTick` is changed
 * in place. What did not move is in order already: only the moved rows are sorted, and both are merged, so
 * that one note moved among a million costs one pass.
 */
export function sortedByTick(events: Events, atTick: Float64Array, rank: Int8Array): Events {
  const last = events.count - 1;
  if (events.status[last] !== META || events.data1[last] !== meta.endOfTrack)
    throw new Error('A track ends with its end of track');
  const moved: number[] = [];
  const still: number[] = [];
  for (let i = 0; i < last; i++) {
    if (atTick[i]! > atTick[last]!) atTick[last] = atTick[i]!;
    if (rank[i] !== 0 || atTick[i] !== events.atTick[i]) moved.push(i);
    else still.push(i);
  }
  const before = (a: number, b: number): number =>
    atTick[a]! - atTick[b]! || rank[a]! - rank[b]! || a - b;
  const sorted = sortedRows(moved, before);
  const order = new Uint32Array(events.count);
  for (let n = 0, m = 0, s = 0; n < last; n++)
    order[n] =
      s >= still.length || (m < sorted.length && before(sorted[m]!, still[s]!) < 0)
        ? sorted[m++]!
        : still[s++]!;
  order[last] = last;
  return pickEvents({ ...events, atTick }, order);
}
