import type { Events } from '../smf/events.ts';
import { indexEvents } from './event-index.ts';
import { notesOf } from './notes.ts';

/** The notes of several tracks as columns, in the order they begin: what a plane of notes is drawn from. */
export interface NoteTable {
  readonly count: number;
  /** Ticks; `to` is where the note ends, for one that hangs the end of its track. */
  readonly from: Float64Array;
  readonly to: Float64Array;
  readonly key: Uint8Array;
  readonly velocity: Uint8Array;
  /** Which of the tracks, and the row of the note-on there. */
  readonly track: Uint32Array;
  readonly row: Uint32Array;
  /** Latest end of this note and all before it: rises, so that what is in view is found by halving. */
  readonly reach: Float64Array;
}

export function noteTable(tracks: readonly Events[]): NoteTable {
  const ends = tracks.map(endsByRow);
  const { count, track, row } = indexEvents(
    tracks,
    (events, i) => events.status[i]! >> 4 === 9 && events.data2[i] !== 0,
  );
  const table = {
    count,
    from: new Float64Array(count),
    to: new Float64Array(count),
    key: new Uint8Array(count),
    velocity: new Uint8Array(count),
    track,
    row,
    reach: new Float64Array(count),
  };
  let reach = 0;
  for (let n = 0; n < count; n++) {
    const events = tracks[track[n]!]!;
    const on = row[n]!;
    table.from[n] = events.atTick[on]!;
    table.to[n] = ends[track[n]!]![on]!;
    table.key[n] = events.data1[on]!;
    table.velocity[n] = events.data2[on]!;
    table.reach[n] = reach = Math.max(reach, table.to[n]!);
  }
  return table;
}

/** Where each note-on's note ends, by row. */
function endsByRow(events: Events): Float64Array {
  const ends = new Float64Array(events.count);
  const notes = notesOf(events);
  const last = events.atTick[events.count - 1] ?? 0;
  for (let n = 0; n < notes.count; n++)
    ends[notes.on[n]!] = notes.off[n] === -1 ? last : events.atTick[notes.off[n]!]!;
  return ends;
}

/**
 * Notes that may sound between two ticks: from the first that reaches in, up to and not including the first
 * that begins behind.
 */
export function notesBetween(
  { count, from, reach }: NoteTable,
  fromTick: number,
  toTick: number,
): { first: number; end: number } {
  return {
    first: lowest(count, (n) => reach[n]! > fromTick),
    end: lowest(count, (n) => from[n]! >= toTick),
  };
}

/** The lowest number for which something that once true stays true is true; `count` where it never is. */
function lowest(count: number, is: (n: number) => boolean): number {
  let low = 0;
  let high = count;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (is(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}
