import { percussionChannel } from '../instruments/general-midi.ts';
import type { Events } from '../smf/events.ts';
import { notesOf, type Notes } from '../song/notes.ts';

/** What can be wrong with how notes are written. Numbers are indices into `notesOf(events)`. */
export interface NoteFaults {
  /** Never ended. */
  readonly hanging: readonly number[];
  /** Ended on the tick they began. */
  readonly empty: readonly number[];
  /** Begun while the same key of the same channel still sounds; `until` is the note that still sounds. */
  readonly overlapping: readonly { readonly note: number; readonly until: number }[];
  /** Equal in every value to a note before: channel, key, ticks, both velocities. */
  readonly duplicate: readonly number[];
  /** Begun on the tick and key of a note before (`with`), and unlike it. */
  readonly doubled: readonly { readonly note: number; readonly with: number }[];
  /**
   * Begun on the tick on which the note before on its key ends (`before`), and written before that end: an
   * instrument takes the end for the new note's. Drums, which nobody releases, aside.
   */
  readonly crossed: readonly { readonly note: number; readonly before: number }[];
}

const cache = new WeakMap<Events, NoteFaults>();

export function noteFaults(events: Events): NoteFaults {
  const known = cache.get(events);
  if (known) return known;
  const faults = findFaults(events, notesOf(events));
  cache.set(events, faults);
  return faults;
}

/** Notes that begin on one tick and key count as one, which ends with the last of them that ends. */
function findFaults(events: Events, notes: Notes): NoteFaults {
  const faults = {
    hanging: [] as number[],
    empty: [] as number[],
    overlapping: [] as { note: number; until: number }[],
    duplicate: [] as number[],
    doubled: [] as { note: number; with: number }[],
    crossed: [] as { note: number; before: number }[],
  };
  const lastOn = new Int32Array(2048).fill(-1);
  const groupEnd = new Float64Array(2048);
  /** What has begun together on a key, by the first of it. */
  const groups = new Map<number, Set<string>>();
  for (let n = 0; n < notes.count; n++) {
    const on = notes.on[n]!;
    const from = events.atTick[on]!;
    const slot = ((events.status[on]! & 15) << 7) | events.data1[on]!;
    const before = lastOn[slot]!;
    const end = endOf(events, notes, n);
    if (before !== -1 && events.atTick[notes.on[before]!] === from) {
      const group = groups.get(before) ?? new Set([valuesOf(events, notes, before)]);
      const values = valuesOf(events, notes, n);
      if (group.has(values)) faults.duplicate.push(n);
      else faults.doubled.push({ note: n, with: before });
      groups.set(before, group.add(values));
      groupEnd[slot] =
        groupEnd[slot] === Infinity
          ? end
          : end === Infinity
            ? groupEnd[slot]!
            : Math.max(groupEnd[slot]!, end);
      continue;
    }
    if (before !== -1 && groupEnd[slot]! > from)
      faults.overlapping.push({ note: n, until: before });
    else if (
      before !== -1 &&
      groupEnd[slot] === from &&
      notes.off[before]! > on &&
      slot >> 7 !== percussionChannel
    )
      faults.crossed.push({ note: n, before });
    lastOn[slot] = n;
    groupEnd[slot] = end;
    if (end === Infinity) faults.hanging.push(n);
    else if (end === from) faults.empty.push(n);
  }
  return faults;
}

/** Where a note ends and both its velocities: notes that begin together on a key are equal where these are. */
const valuesOf = (events: Events, notes: Notes, n: number): string =>
  `${events.data2[notes.on[n]!]} ${endOf(events, notes, n)} ${notes.off[n] === -1 ? '' : events.data2[notes.off[n]!]}`;

/** Tick where a note ends; infinitely far where it hangs. */
export const endOf = (events: Events, notes: Notes, n: number): number =>
  notes.off[n] === -1 ? Infinity : events.atTick[notes.off[n]!]!;

export const faultCount = ({
  hanging,
  empty,
  overlapping,
  duplicate,
  doubled,
  crossed,
}: NoteFaults): number =>
  hanging.length +
  empty.length +
  overlapping.length +
  duplicate.length +
  doubled.length +
  crossed.length;
