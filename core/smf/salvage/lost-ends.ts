import { withInserted } from '../event-builder.ts';
import type { Events, EventValue } from '../events.ts';

const noBytes = new Uint8Array(0);
const usualRelease = 64;

/** A gap that was not found at its very place may be so many rows before or behind it. */
const near = 4;
/** Of more notes that hang none was lost: the track is played so. */
const mostHung = 64;

/** A note that hangs: every later one of its key ends where the one before it did. */
export interface Hung {
  readonly key: number;
  /** Its row, and that of the next note of its key; Infinity where there is none. */
  readonly struck: number;
  readonly again: number;
  /**
   * The row of the note after that: where a key was struck twice before it was to end, its end may have been
   * lost until there.
   */
  readonly until: number;
}

/**
 * The events with the ends of notes that were lost in a gap: a key that sounds before it and is never
 * silent again behind it ends at the gap. Else it would sound to the end of the song, and every later note
 * of that key would end where the one before it did. Notes that hang from elsewhere stay so. `gaps`: rows of
 * the events behind each gap, ascending.
 */
export function withLostEnds(events: Events, gaps: readonly number[]): Events {
  const hung = hungNotes(events);
  if (hung.length > mostHung) return events;
  const ends = hung
    .map(({ key, struck, again, until }) => ({ key, row: placeOf(gaps, struck, again, until) }))
    // Behind all that was read nothing is left whose end could be taken.
    .filter(({ row }) => row < events.count)
    .sort((a, b) => b.row - a.row);
  return ends.reduce(
    (now, { key, row }) => withInserted(now, row, endOf(key, events.atTick[row]!)),
    events,
  );
}

/** The row before which a note that hangs ends: that of a gap, or of the next note where a gap is near. */
function placeOf(gaps: readonly number[], struck: number, again: number, until: number): number {
  const gap = gaps.find((row) => row > struck && row <= until);
  if (gap !== undefined) return gap;
  return gaps.some((row) => Math.abs(row - struck) < near) ? again : Infinity;
}

const endOf = (key: number, atTick: number): EventValue => ({
  atTick,
  status: 0x80 | (key >> 7),
  data1: key & 127,
  data2: usualRelease,
  payload: noBytes,
});

/**
 * Where ends of notes were lost without any other trace: the first row at which most of those that hang
 * could have ended before they were struck again; undefined where none does, or where the track is played so.
 */
export function whereEndsWereLost(events: Events): number | undefined {
  const hung = hungNotes(events).filter(({ again }) => again < Infinity);
  if (hung.length > mostHung) return undefined;
  let best: { readonly row: number; readonly many: number } | undefined;
  // Most lie over each other where one of them begins.
  for (const { struck } of hung) {
    const row = struck + 1;
    const many = hung.filter((h) => row > h.struck && row <= h.again).length;
    if (!best || many > best.many) best = { row, many };
  }
  return best?.row;
}

/** Notes that hang, by their keys. */
export function hungNotes({ count, status, data1, data2 }: Events): Hung[] {
  /** Of each key the rows at which one more of its notes began to sound, and has not ended since. */
  const open = new Map<number, number[]>();
  /** Rows of the first two notes that were struck over one that sounds. */
  const over = new Map<number, number[]>();
  for (let row = 0; row < count; row++) {
    const kind = status[row]! >> 4;
    if (kind !== 8 && kind !== 9) continue;
    const key = ((status[row]! & 15) << 7) | data1[row]!;
    const rows = open.get(key) ?? [];
    if (rows.length === 0) open.set(key, rows);
    if (kind === 8 || data2[row] === 0) {
      rows.pop();
      continue;
    }
    const sounds = rows.at(-1);
    if (sounds !== undefined) {
      const those = over.get(sounds) ?? [];
      if (those.length < 2) over.set(sounds, [...those, row]);
    }
    rows.push(row);
  }
  return [...open].flatMap(([key, rows]) =>
    rows.map((struck) => {
      const [again = Infinity, until = Infinity] = over.get(struck) ?? [];
      return { key, struck, again, until };
    }),
  );
}
