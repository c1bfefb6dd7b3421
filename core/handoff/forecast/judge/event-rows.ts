import { payloadOf, type Events } from '../../../smf/events.ts';
import { pairNotes } from '../../proof/reading/pair-notes.ts';

/** Whether two events that are no messages of a channel say the same, byte for byte. */
export const sameRow = (events: Events, row: number, there: Events, at: number): boolean => {
  const [one, other] = [payloadOf(events, row), payloadOf(there, at)];
  return (
    events.data1[row] === there.data1[at] &&
    one.length === other.length &&
    one.every((b, i) => b === other[i])
  );
};

const metas = new WeakMap<Events, readonly number[]>();
/** Rows of metas, looked for once whatever files it is asked for. */
export function metasIn(events: Events): readonly number[] {
  let rows = metas.get(events);
  if (!rows) {
    const found: number[] = [];
    for (let row = 0; row < events.count; row++) if (events.status[row] === 0xff) found.push(row);
    metas.set(events, (rows = found));
  }
  return rows;
}

const offs = new WeakMap<Events, Int32Array>();
/** The row that ends the note which a row begins; -1 where none does. */
export function offOf(events: Events, row: number): number {
  let rows = offs.get(events);
  if (!rows) {
    rows = new Int32Array(events.count).fill(-1);
    const { on, off, count } = pairNotes(events);
    for (let n = 0; n < count; n++) rows[on[n]!] = off[n]!;
    offs.set(events, rows);
  }
  return rows[row]!;
}
