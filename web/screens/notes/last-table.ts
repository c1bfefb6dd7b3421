import { noteTable, type NoteTable } from '#core/song/note-table.ts';
import type { Events } from '#core/smf/events.ts';
import { densityOf } from '../../plane/density.ts';

interface Last {
  readonly of: readonly Events[];
  readonly table: NoteTable;
  readonly endTick: number;
  readonly density: ReturnType<typeof densityOf>;
}
let last: Last | undefined;
/** More notes than these are made anew: they are megabytes by the hundred. */
const mostKept = 500_000;

/**
 * The notes of some tracks, and how close they lie; those that were shown last are there at once for whoever
 * comes back to them.
 */
export function notesShown(events: readonly Events[], endTick: number): Last {
  const before = last;
  const same = before?.of.length === events.length && before.of.every((t, n) => t === events[n]);
  if (same && before.endTick === endTick) return before;
  const table = same ? before.table : noteTable(events);
  const made = { of: [...events], table, endTick, density: densityOf(table, endTick) };
  last = table.count <= mostKept ? made : undefined;
  return made;
}
