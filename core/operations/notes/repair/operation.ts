import { z } from 'zod';
import { eventsFrom } from '../../../smf/event-builder.ts';
import {
  channelEvent,
  endTick,
  eventAt,
  eventValues,
  type EventValue,
  type Events,
} from '../../../smf/events.ts';
import { notesOf, type Notes } from '../../../song/notes.ts';
import { counted, inTracks, rewriteTracks, totalOf } from '../../../edit/rewrite.ts';
import { defineOperation } from '../../operation.ts';
import { endOf, faultCount, noteFaults, type NoteFaults } from '../../../edit/note-faults.ts';

const togethers = ['the louder and longer', 'the louder', 'the longer', 'the first'] as const;
type Together = (typeof togethers)[number];

export const notesRepair = defineOperation({
  id: 'notes.repair',
  version: 2,
  title: 'Repair notes',
  summary:
    'Ends notes that hang, cuts notes that overlap themselves on one key, sets ends before beginnings of one tick and key, drops notes that are written twice or have no length, and makes one of two that begin together on a key.',
  group: 'notes',
  scope: 'tracks',
  settings: z.strictObject({
    together: z.enum(togethers).default('the louder and longer').meta({
      title: 'Of two on one key at once',
      description:
        'By default one note stays that is as loud as the louder and as long as the longer.',
    }),
  }),
  apply(song, { together }, scope) {
    return rewriteTracks(song, scope, (events) => {
      const faults = noteFaults(events);
      const notes = notesOf(events);
      if (faultCount(faults) === 0 && notes.strayOffs === 0)
        return { left: 'Its notes are sound.' };
      // A note that begins where the track ends has no room to end in.
      const ended = faults.hanging.filter(
        (n) => events.atTick[notes.on[n]!]! < endTick(events),
      ).length;
      const detail = [
        ended > 0 && `${ended} ended`,
        faults.hanging.length > ended &&
          `${faults.hanging.length - ended} that ${faults.hanging.length - ended === 1 ? 'begins' : 'begin'} at the very end dropped`,
        faults.overlapping.length > 0 && `${faults.overlapping.length} cut`,
        faults.duplicate.length > 0 && `${faults.duplicate.length} dropped as duplicates`,
        faults.doubled.length > 0 &&
          `${faults.doubled.length} joined with another of the same key and beginning: ${together} stays`,
        faults.crossed.length > 0 &&
          `${faults.crossed.length} begun behind the end of the note before`,
        faults.empty.length > 0 && `${faults.empty.length} without length dropped`,
        notes.strayOffs > 0 && `${counted(notes.strayOffs, 'note-off')} without a note dropped`,
      ].filter(Boolean);
      return {
        events: repaired(events, together),
        counts: { note: faultCount(faults) + (faultCount(faults) === 0 ? notes.strayOffs : 0) },
        detail: detail.join(', '),
      };
    });
  },
  describe: (_, report) => `Repaired ${counted(totalOf(report), 'note')} ${inTracks(report)}`,
  examples: [{ says: 'On every track', settings: {} }],
});

/**
 * Every sound note exactly once, from its beginning to its end or to the next of its key. A repaired
 * note-off that another note of the key begins on stands before it.
 */
function repaired(events: Events, together: Together): Events {
  const notes = notesOf(events);
  const faults = noteFaults(events);
  const dropped = new Set([
    ...faults.duplicate,
    ...faults.doubled.map((d) => d.note),
    ...faults.empty,
  ]);
  const onOf = [...notes.on];
  const offOf = [...notes.off];
  for (const [first, group] of groupsOf(faults)) {
    const { on, off } = chosen(events, notes, group, together);
    [onOf[first], offOf[first]] = [on, off];
    if (off === -1 || events.atTick[off]! > events.atTick[on]!) dropped.delete(first);
  }
  for (const { note, until } of faults.overlapping) {
    // One note-off for two notes of a key ends the later one, as an instrument would have it.
    const off = offOf[until]!;
    if (offOf[note] === -1 && off !== -1 && events.atTick[off]! > events.atTick[notes.on[note]!]!)
      offOf[note] = off;
  }
  const nextOf = new Map(faults.overlapping.map(({ note, until }) => [until, note]));
  const endsFirst = new Set(faults.crossed.map((c) => c.before));
  const rows = new Set<number>();
  const offs: EventValue[] = [];
  for (let n = 0; n < notes.count; n++) {
    if (dropped.has(n)) continue;
    const on = onOf[n]!;
    const off = offOf[n]!;
    const next = nextOf.get(n);
    const from = next === undefined ? Infinity : events.atTick[notes.on[next]!]!;
    const cut = off === -1 ? Math.min(from, endTick(events)) : Math.min(from, events.atTick[off]!);
    // A note that would have to end where it begins is no note.
    if (cut <= events.atTick[on]!) continue;
    rows.add(on);
    if (off !== -1 && cut === events.atTick[off] && endsFirst.has(n))
      offs.push(eventAt(events, off));
    else if (off !== -1 && cut === events.atTick[off]) rows.add(off);
    else offs.push(channelEvent(cut, 0x80 | (events.status[on]! & 15), events.data1[on]!, 64));
  }
  const kept = eventValues(events).filter(
    (e, i) => e.status >= 0xa0 || e.status < 0x80 || rows.has(i),
  );
  return eventsFrom([...offs, ...kept]);
}

/** Notes that begin together with others of their key, by the first of each group. */
function groupsOf({ doubled }: NoteFaults): Map<number, number[]> {
  const groups = new Map<number, number[]>();
  for (const { note, with: first } of doubled)
    groups.set(first, [...(groups.get(first) ?? [first]), note]);
  return groups;
}

/** Rows of the note-on and note-off that stay of a group. What hangs is no longer than what ends. */
function chosen(
  events: Events,
  notes: Notes,
  group: readonly number[],
  together: Together,
): { on: number; off: number } {
  const best = (value: (n: number) => number): number =>
    group.reduce((a, b) => (value(b) > value(a) ? b : a));
  const louder = best((n) => events.data2[notes.on[n]!]!);
  const longer = best((n) => (notes.off[n] === -1 ? -1 : endOf(events, notes, n)));
  const [on, off] = {
    'the louder and longer': [louder, longer],
    'the louder': [louder, louder],
    'the longer': [longer, longer],
    'the first': [group[0]!, group[0]!],
  }[together] as [number, number];
  return { on: notes.on[on]!, off: notes.off[off]! };
}
