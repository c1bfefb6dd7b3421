import type { Events } from '../../smf/events.ts';
import { notesOf, type Notes } from '../../song/notes.ts';

/** What can be wrong with how notes are written. Numbers are indices into `notesOf(events)`. */
export interface NoteFaults {
  /** Never ended. */
  readonly hanging: readonly number[];
  /** Ended on the tick they began. */
  readonly empty: readonly number[];
  /** Begun while the same key of the same channel still sounds; `until` is the note that still sounds. */
  readonly overlapping: readonly { readonly note: number; readonly until: number }[];
  /** The same channel, key and tick as a note before. */
  readonly duplicate: readonly number[];
}

const cache = new WeakMap<Events, NoteFaults>();

export function noteFaults(events: Events): NoteFaults {
  const known = cache.get(events);
  if (known) return known;
  const faults = findFaults(events, notesOf(events));
  cache.set(events, faults);
  return faults;
}

function findFaults(events: Events, notes: Notes): NoteFaults {
  const faults = { hanging: [] as number[], empty: [] as number[], overlapping: [] as { note: number; until: number }[], duplicate: [] as number[] };
  const lastOn = new Int32Array(2048).fill(-1);
  for (let n = 0; n < notes.count; n++) {
    const on = notes.on[n]!;
    const from = events.atTick[on]!;
    const slot = ((events.status[on]! & 15) << 7) | events.data1[on]!;
    const before = lastOn[slot]!;
    if (before !== -1 && events.atTick[notes.on[before]!] === from) {
      faults.duplicate.push(n);
      continue;
    }
    if (before !== -1 && endOf(events, notes, before) > from) faults.overlapping.push({ note: n, until: before });
    lastOn[slot] = n;
    if (notes.off[n] === -1) faults.hanging.push(n);
    else if (endOf(events, notes, n) === from) faults.empty.push(n);
  }
  return faults;
}

/** Tick where a note ends; infinitely far where it hangs. */
export const endOf = (events: Events, notes: Notes, n: number): number => (notes.off[n] === -1 ? Infinity : events.atTick[notes.off[n]!]!);

export const faultCount = ({ hanging, empty, overlapping, duplicate }: NoteFaults): number => hanging.length + empty.length + overlapping.length + duplicate.length;
