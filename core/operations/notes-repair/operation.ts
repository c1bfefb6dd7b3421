import { z } from 'zod';
import { eventsFrom } from '../../smf/event-builder.ts';
import { channelEvent, endTick, eventValues, type EventValue, type Events } from '../../smf/events.ts';
import { notesOf } from '../../song/notes.ts';
import { counted, inTracks, rewriteTracks, totalOf } from '../shared/rewrite.ts';
import { defineOperation } from '../operation.ts';
import { faultCount, noteFaults } from './faults.ts';

export const notesRepair = defineOperation({
  id: 'notes.repair',
  version: 1,
  title: 'Repair notes',
  summary: 'Ends notes that hang, cuts notes that overlap themselves on one key, drops exact duplicates and notes without length.',
  group: 'notes',
  scope: 'tracks',
  settings: z.strictObject({}),
  apply(song, _, scope) {
    return rewriteTracks(song, scope, (events) => {
      const faults = noteFaults(events);
      const notes = notesOf(events);
      if (faultCount(faults) === 0 && notes.strayOffs === 0) return { left: 'Its notes are sound.' };
      const detail = [
        faults.hanging.length > 0 && `${faults.hanging.length} ended`,
        faults.overlapping.length > 0 && `${faults.overlapping.length} cut`,
        faults.duplicate.length > 0 && `${faults.duplicate.length} dropped as duplicates`,
        faults.empty.length > 0 && `${faults.empty.length} without length dropped`,
        notes.strayOffs > 0 && `${counted(notes.strayOffs, 'note-off')} without a note dropped`,
      ].filter(Boolean);
      return { events: repaired(events), counts: { note: faultCount(faults) + (faultCount(faults) === 0 ? notes.strayOffs : 0) }, detail: detail.join(', ') };
    });
  },
  describe: (_, report) => `Repaired ${counted(totalOf(report), 'note')} ${inTracks(report)}`,
  examples: [{ says: 'On every track', settings: {} }],
});

/**
 * Every sound note exactly once, from its beginning to its end or to the next of its key. A repaired note-off that another
 * note of the key begins on stands before it.
 */
function repaired(events: Events): Events {
  const notes = notesOf(events);
  const faults = noteFaults(events);
  const dropped = new Set([...faults.duplicate, ...faults.empty]);
  const offOf = [...notes.off];
  for (const { note, until } of faults.overlapping) {
    // One note-off for two notes of a key ends the later one, as an instrument would have it.
    const off = offOf[until]!;
    if (offOf[note] === -1 && off !== -1 && events.atTick[off]! > events.atTick[notes.on[note]!]!) offOf[note] = off;
  }
  const nextOf = new Map(faults.overlapping.map(({ note, until }) => [until, note]));
  const rows = new Set<number>();
  const offs: EventValue[] = [];
  for (let n = 0; n < notes.count; n++) {
    if (dropped.has(n)) continue;
    const on = notes.on[n]!;
    const off = offOf[n]!;
    const next = nextOf.get(n);
    const from = next === undefined ? Infinity : events.atTick[notes.on[next]!]!;
    const cut = off === -1 ? Math.min(from, endTick(events)) : Math.min(from, events.atTick[off]!);
    // A note that would have to end where it begins is no note.
    if (cut <= events.atTick[on]!) continue;
    rows.add(on);
    if (off !== -1 && cut === events.atTick[off]) rows.add(off);
    else offs.push(channelEvent(cut, 0x80 | (events.status[on]! & 15), events.data1[on]!, 64));
  }
  const kept = eventValues(events).filter((e, i) => e.status >= 0xa0 || e.status < 0x80 || rows.has(i));
  return eventsFrom([...offs, ...kept]);
}
