import type { Events } from '../../../smf/events.ts';
import { notesOf } from '../../../song/notes.ts';

/** How many notes begin while another of their channel and key sounds; rows are in the order of time. */
export function doubleNotes(events: Events): number {
  const notes = notesOf(events);
  const until = new Float64Array(16 * 128).fill(-1);
  let double = 0;
  for (let n = 0; n < notes.count; n++) {
    const [on, off] = [notes.on[n]!, notes.off[n]!];
    const line = (events.status[on]! & 15) * 128 + events.data1[on]!;
    if (events.atTick[on]! < until[line]!) double++;
    until[line] = Math.max(until[line]!, off === -1 ? -1 : events.atTick[off]!);
  }
  return double;
}
