import type { Events } from '../smf/events.ts';
import { notesOf, type Notes } from './notes.ts';

/**
 * The note that each poly pressure of a track presses (MIDI 1.0: pressure of a key that sounds), by its
 * row: index into the notes. The latest begun that still sounds; pressure of a key that is silent presses
 * none and stands in no entry.
 */
export function pressedNotes(
  events: Events,
  notes: Notes = notesOf(events),
): ReadonlyMap<number, number> {
  const pressed = new Map<number, number>();
  const { status, data1, count } = events;
  const sounding = new Map<number, number[]>();
  const endsAt = new Map<number, number>();
  let next = 0;
  for (let row = 0; row < count; row++) {
    const kind = status[row]! >> 4;
    if (kind !== 8 && kind !== 9 && kind !== 0xa) continue;
    const slot = ((status[row]! & 15) << 7) | data1[row]!;
    if (next < notes.count && notes.on[next] === row) {
      const its = sounding.get(slot);
      if (its) its.push(next);
      else sounding.set(slot, [next]);
      if (notes.off[next] !== -1) endsAt.set(notes.off[next]!, next);
      next++;
    } else if (kind === 0xa) {
      const latest = sounding.get(slot)?.at(-1);
      if (latest !== undefined) pressed.set(row, latest);
    } else {
      const ended = endsAt.get(row);
      const its = sounding.get(slot);
      if (ended !== undefined && its) its.splice(its.indexOf(ended), 1);
    }
  }
  return pressed;
}

/** Marks the pressure of notes that go as going too. `dropped`: by row. */
export function dropPressure(events: Events, notes: Notes, dropped: Uint8Array): void {
  if (!events.status.some((s) => s >> 4 === 0xa)) return;
  for (const [row, n] of pressedNotes(events, notes))
    if (dropped[notes.on[n]!] === 1) dropped[row] = 1;
}
