import { percussionChannel } from '../instruments/general-midi.ts';
import type { Events } from '../smf/events.ts';
import { notesOf } from '../song/notes.ts';
import { dropPressure, pressedNotes } from '../song/poly-pressure.ts';
import { sortedByTick } from './retime.ts';
import { without } from './rewrite.ts';

/** What came of giving notes other keys. */
export interface Rekeyed {
  readonly events: Events;
  /** Notes that have another key now. */
  readonly moved: number;
  /** Notes that were taken out as asked. */
  readonly out: number;
  /** Notes that ended earlier, where another of their new key begins. */
  readonly cut: number;
  /** Notes that fell on one of their new key that begins with them: one is left. */
  readonly together: number;
}

/** Takes the note out. */
export const gone = -1;

/**
 * Gives notes other keys, and takes some out: `keyOf` says the key of each note (index into `notesOf`), its
 * own for one that stays. Where a moved note meets another of its new key, the one before ends where the next
 * begins, unless that is none of the step's (`mayEnd`); of two that begin together the longer is left. Pressure
 * of keys goes with its note.
 */
export function rekeyed(
  events: Events,
  keyOf: (note: number) => number,
  mayEnd: (row: number) => boolean,
): Rekeyed {
  const notes = notesOf(events);
  const data1 = events.data1.slice();
  const atTick = events.atTick.slice();
  const rank = new Int8Array(events.count);
  const dropped = new Uint8Array(events.count);
  const changed = new Uint8Array(notes.count);
  const counts = { moved: 0, out: 0, cut: 0, together: 0 };
  const drop = (n: number): void => {
    dropped[notes.on[n]!] = 1;
    if (notes.off[n] !== -1) dropped[notes.off[n]!] = 1;
  };
  for (let n = 0; n < notes.count; n++) {
    const on = notes.on[n]!;
    const key = keyOf(n);
    if (key === gone) {
      drop(n);
      counts.out++;
    } else if (key !== events.data1[on]) {
      data1[on] = key;
      if (notes.off[n] !== -1) data1[notes.off[n]!] = key;
      changed[n] = 1;
      counts.moved++;
    }
  }
  if (counts.moved > 0) keepApart();
  if (counts.moved + counts.out > 0 && events.status.some((status) => status >> 4 === 0xa)) {
    for (const [row, n] of pressedNotes(events, notes)) data1[row] = data1[notes.on[n]!]!;
    dropPressure(events, notes, dropped);
  }
  const now = { ...events, data1 };
  const sorted = counts.cut > 0 ? sortedWithout(now, atTick, rank, dropped) : now;
  return {
    events: counts.cut > 0 ? sorted : (without(now, (row) => dropped[row] === 1) ?? now),
    ...counts,
  };

  function keepApart(): void {
    const last = new Int32Array(2048).fill(-1);
    const begins = (n: number): number => atTick[notes.on[n]!]!;
    const ends = (n: number): number => (notes.off[n] === -1 ? Infinity : atTick[notes.off[n]!]!);
    for (let n = 0; n < notes.count; n++) {
      const on = notes.on[n]!;
      if (dropped[on] === 1 || (events.status[on]! & 15) === percussionChannel) continue;
      const slot = ((events.status[on]! & 15) << 7) | data1[on]!;
      const before = last[slot]!;
      last[slot] = n;
      if (before === -1 || (!changed[before] && !changed[n]) || ends(before) < begins(n)) continue;
      // What was one key before is none of this step's doing.
      if (events.data1[notes.on[before]!] === events.data1[on]) continue;
      if (begins(before) === begins(n)) {
        // The one that was moved goes; of two that were, the shorter.
        const goes = !changed[n]
          ? before
          : !changed[before]
            ? n
            : ends(n) > ends(before)
              ? before
              : n;
        last[slot] = goes === n ? before : n;
        drop(goes);
        if (changed[goes]) counts.moved--;
        counts.together++;
      } else if (notes.off[before] !== -1 && mayEnd(notes.on[before]!)) {
        if (ends(before) > begins(n)) counts.cut++;
        else if (notes.off[before]! < on) continue;
        else counts.cut++;
        atTick[notes.off[before]!] = begins(n);
        rank[notes.off[before]!] = -1;
      }
    }
  }
}

function sortedWithout(
  events: Events,
  atTick: Float64Array,
  rank: Int8Array,
  dropped: Uint8Array,
): Events {
  const left = without(events, (row) => dropped[row] === 1);
  if (!left) return sortedByTick(events, atTick, rank);
  const rows = Array.from({ length: events.count }, (_, row) => row).filter(
    (row) => dropped[row] !== 1 || row === events.count - 1,
  );
  return sortedByTick(
    left,
    Float64Array.from(rows, (row) => atTick[row]!),
    Int8Array.from(rows, (row) => rank[row]!),
  );
}

/** What happened beside what was asked, in words for a report; undefined where nothing did. */
export function rekeyWords({
  cut,
  together,
}: Pick<Rekeyed, 'cut' | 'together'>): string | undefined {
  const words = [
    cut > 0 &&
      `${cut.toLocaleString('en')} end${cut === 1 ? 's' : ''} where the next of the key begins`,
    together > 0 &&
      `${together.toLocaleString('en')} left out where another of the key begins with ${together === 1 ? 'it' : 'them'}`,
  ].filter(Boolean);
  return words.length === 0 ? undefined : words.join(', ');
}
