import type { Events } from '../smf/events.ts';

/**
 * The notes of a track, as an index over its columns: `on[n]` and `off[n]` are rows, `off[n]` is -1 for a
 * note that hangs. A note-off ends the oldest sounding note of its key and channel (common practice).
 * Note-offs that end nothing are counted.
 */
export interface Notes {
  readonly count: number;
  readonly on: Int32Array;
  readonly off: Int32Array;
  readonly strayOffs: number;
}

const cache = new WeakMap<Events, Notes>();

export function notesOf(events: Events): Notes {
  const known = cache.get(events);
  if (known) return known;
  const notes = pairNotes(events);
  cache.set(events, notes);
  return notes;
}

/** How many notes a track has: of millions nobody pairs them to know that. */
export const noteCount = (events: Events): number =>
  cache.get(events)?.count ?? noteOns(events.status, events.data2, events.count);

function pairNotes({ count, status, data1, data2 }: Events): Notes {
  const on = new Int32Array(noteOns(status, data2, count));
  const off = new Int32Array(on.length).fill(-1);
  // First and last sounding note of each channel and key, and the one that follows each note there: queues
  // without objects.
  const first = new Int32Array(2048).fill(-1);
  const last = new Int32Array(2048).fill(-1);
  const following = new Int32Array(on.length).fill(-1);
  let n = 0;
  let strayOffs = 0;
  for (let i = 0; i < count; i++) {
    const s = status[i]!;
    if (s < 0x80 || s > 0x9f) continue;
    const slot = ((s & 0x0f) << 7) | data1[i]!;
    if (s >= 0x90 && data2[i] !== 0) {
      if (first[slot] === -1) first[slot] = n;
      else following[last[slot]!] = n;
      last[slot] = n;
      on[n++] = i;
    } else if (first[slot] === -1) {
      strayOffs++;
    } else {
      off[first[slot]!] = i;
      first[slot] = following[first[slot]!]!;
    }
  }
  return { count: n, on, off, strayOffs };
}

function noteOns(status: Uint8Array, data2: Uint8Array, count: number): number {
  let ons = 0;
  for (let i = 0; i < count; i++) if ((status[i]! & 0xf0) === 0x90 && data2[i] !== 0) ons++;
  return ons;
}
