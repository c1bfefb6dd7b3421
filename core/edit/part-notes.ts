import { eventsFrom } from '../smf/event-builder.ts';
import { channelEvent, type Events, type EventValue } from '../smf/events.ts';
import { notesOf } from '../song/notes.ts';
import { pressedNotes } from '../song/poly-pressure.ts';
import type { Track } from '../song/song.ts';

/** A note of a part that comes: made of a note of another, by its index there. */
export interface PartNote {
  readonly of: number;
  readonly key: number;
  readonly from: number;
  readonly to: number;
}

/** An event with its order on its tick: what sets up, ends, begins, presses, and the end of the track. */
export interface Placed {
  readonly event: EventValue;
  readonly rank: number;
}

export const offRank = 1;

export const packed = (events: readonly Placed[]): Events =>
  eventsFrom(
    [...events]
      .sort((a, b) => a.event.atTick - b.event.atTick || a.rank - b.rank)
      .map(({ event }) => event),
  );

/** The events of notes, with the velocities of those that they are made of. */
export function noteEvents(part: Track, notes: readonly PartNote[], channel: number): Placed[] {
  const { events } = part;
  const its = notesOf(events);
  return notes.flatMap(({ of, key, from, to }) => {
    const off = its.off[of]!;
    const ends = off !== -1 && events.status[off]! >> 4 === 8;
    return [
      { event: channelEvent(from, 0x90 | channel, key, events.data2[its.on[of]!]!), rank: 2 },
      {
        event: channelEvent(
          Math.max(from + 1, to),
          (ends ? 0x80 : 0x90) | channel,
          key,
          ends ? events.data2[off]! : 0,
        ),
        rank: offRank,
      },
    ];
  });
}

/** Pressure of the keys that the notes are made of, on their own. */
export function pressures(part: Track, notes: readonly PartNote[], channel: number): Placed[] {
  const { events } = part;
  if (!events.status.some((status) => status >> 4 === 0xa)) return [];
  const byNote = new Map<number, PartNote[]>();
  for (const note of notes) byNote.set(note.of, [...(byNote.get(note.of) ?? []), note]);
  const its = notesOf(events);
  return [...pressedNotes(events, its)].flatMap(([row, of]) =>
    (byNote.get(of) ?? []).flatMap(({ key, from, to }) => {
      const atTick = from + events.atTick[row]! - events.atTick[its.on[of]!]!;
      return atTick >= to
        ? []
        : [{ event: channelEvent(atTick, 0xa0 | channel, key, events.data2[row]!), rank: 3 }];
    }),
  );
}

/** Where something sounds already, whatever its key. */
export interface Stands {
  readonly from: number;
  readonly to: number;
}

/** A note that stands somewhere already. */
export interface Taken extends Stands {
  readonly key: number;
}

/** The place of the first that begins at or after a tick. */
export function placeFrom(list: readonly { readonly from: number }[], tick: number): number {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (list[middle]!.from < tick) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The notes of a track on a channel. */
export function takenOn({ events }: Track, channel: number): Taken[] {
  const notes = notesOf(events);
  const list: Taken[] = [];
  for (let n = 0; n < notes.count; n++) {
    const on = notes.on[n]!;
    if ((events.status[on]! & 15) !== channel) continue;
    const to = notes.off[n] === -1 ? Infinity : events.atTick[notes.off[n]!]!;
    list.push({ key: events.data1[on]!, from: events.atTick[on]!, to });
  }
  return list;
}

/**
 * Notes so that none sounds over another of its key: what would begin while its key sounds already is left
 * out (`left`: what they are made of), what would last into the next of its key ends there. `standingOf` gives
 * what stands there already on a key, in the order in which it begins.
 */
export function clearNotes(
  notes: readonly PartNote[],
  standingOf: (key: number) => readonly Stands[],
): { notes: PartNote[]; left: number[]; details: string[] } {
  const come = byKey(notes);
  const clear: PartNote[] = [];
  const left: number[] = [];
  let cut = 0;
  for (const [key, its] of come) {
    const standing = standingOf(key);
    let [next, reach] = [0, -Infinity];
    const kept: PartNote[] = [];
    for (const note of its) {
      for (; next < standing.length && standing[next]!.from <= note.from; next++)
        reach = Math.max(reach, standing[next]!.to);
      const last = kept.at(-1);
      if (reach > note.from || standing[next - 1]?.from === note.from) left.push(note.of);
      else if (last?.from === note.from) {
        const longer = note.to > last.to;
        left.push(longer ? last.of : note.of);
        if (longer) kept[kept.length - 1] = note;
      } else {
        if (last && last.to > note.from) {
          kept[kept.length - 1] = { ...last, to: note.from };
          cut++;
        }
        kept.push(note);
      }
    }
    // What stands behind a note ends it.
    let at = 0;
    for (const note of kept) {
      while (at < standing.length && standing[at]!.from <= note.from) at++;
      const to = Math.min(note.to, standing[at]?.from ?? Infinity);
      if (to < note.to) cut++;
      clear.push(to < note.to ? { ...note, to } : note);
    }
  }
  const count = (n: number, what: string): string[] =>
    n > 0 ? [`${n.toLocaleString('en')} ${what}`] : [];
  return {
    notes: clear.sort((a, b) => a.from - b.from || a.of - b.of),
    left,
    details: [
      ...count(cut, 'cut where the next of the key begins'),
      ...count(left.length, 'left out where the key sounds already'),
    ],
  };
}

function byKey<N extends Taken>(notes: readonly N[]): Map<number, N[]> {
  const found = new Map<number, N[]>();
  for (const note of notes) {
    const its = found.get(note.key);
    if (its) its.push(note);
    else found.set(note.key, [note]);
  }
  for (const its of found.values()) its.sort((a, b) => a.from - b.from);
  return found;
}
