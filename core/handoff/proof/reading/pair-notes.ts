import type { Events } from '../../../smf/events.ts';

/** The notes of a track in order, by their rows; `off[n]` is -1 where nothing ends the n-th. */
export interface PairedNotes {
  readonly count: number;
  readonly on: Int32Array;
  readonly off: Int32Array;
}

const knownNotes = new WeakMap<Events, PairedNotes>();

/** Pairs notes: a note-off ends the oldest note that sounds on its key and channel (common practice). */
export function pairNotes(events: Events): PairedNotes {
  const known = knownNotes.get(events);
  if (known) return known;
  const isOn = (row: number): boolean => events.status[row]! >> 4 === 9 && events.data2[row]! > 0;
  let count = 0;
  for (let row = 0; row < events.count; row++) if (isOn(row)) count++;
  const [on, off] = [new Int32Array(count), new Int32Array(count).fill(-1)];
  /** By channel and key, the notes that sound, and how many of them have ended. */
  const sounding = new Map<number, { notes: number[]; ended: number }>();
  for (let row = 0, n = 0; row < events.count; row++) {
    const status = events.status[row]!;
    if (status >> 4 !== 8 && status >> 4 !== 9) continue;
    const slot = (status & 15) * 128 + events.data1[row]!;
    let queue = sounding.get(slot);
    if (!queue) sounding.set(slot, (queue = { notes: [], ended: 0 }));
    if (isOn(row)) {
      on[n] = row;
      queue.notes.push(n++);
    } else if (queue.ended < queue.notes.length) {
      off[queue.notes[queue.ended++]!] = row;
      if (queue.ended === queue.notes.length) sounding.delete(slot);
    }
  }
  const notes = { count, on, off };
  knownNotes.set(events, notes);
  return notes;
}
