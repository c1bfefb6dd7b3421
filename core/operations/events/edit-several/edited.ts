import type { Edited } from '../../../edit/rewrite.ts';
import { kindOf } from '../../../edit/event-kinds.ts';
import { markRows, type NamedRows } from '../../../edit/named-rows.ts';
import { noteTicks, sortedByTick } from '../../../edit/retime.ts';
import { apartWords } from '../../../edit/apart.ts';
import { sameBytes } from '../../../smf/chunks.ts';
import { withPayloads } from '../../../smf/event-builder.ts';
import { payloadOf, type Events } from '../../../smf/events.ts';
import { notesOf } from '../../../song/notes.ts';
import { doubleNotes } from './double-notes.ts';
import type { EditSeveral, SetOrAdd } from './settings.ts';

const given = (
  value: number,
  how: SetOrAdd | undefined,
  lowest: number,
  highest: number,
): number =>
  how === undefined
    ? value
    : Math.min(highest, Math.max(lowest, 'to' in how ? how.to : value + how.by));

/** The named events with what they are given; notes that are named by one of their ends are edited whole. */
export function edited(events: Events, spans: NamedRows[string], settings: EditSeveral): Edited {
  const marked = markRows(events, spans);
  const changed = withColumns(events, marked, settings);
  const { length } = settings;
  const timed =
    length &&
    noteTicks(changed, { from: 0, to: Infinity, rows: marked }, ({ from, to }) => ({
      from,
      to: from + given(to - from, length, 1, Infinity),
    }));
  const counts: Record<string, number> = {};
  for (let row = 0; row < events.count; row++) {
    const kind = kindOf(events, row);
    if (kind && differs(events, changed, row)) counts[kind] = (counts[kind] ?? 0) + 1;
  }
  if (timed && timed.moved > 0) counts.note = Math.max(counts.note ?? 0, timed.moved);
  const ends = changed !== events && Object.keys(counts).length === 0;
  if (ends) counts['note-off'] = marked.reduce((sum, m) => sum + m, 0);
  if (Object.keys(counts).length === 0) return { left: 'They are so already.' };
  const after = timed ? sortedByTick(changed, timed.atTick, timed.rank) : changed;
  const doubled = doubleNotes(after) - doubleNotes(events);
  const detail = [
    timed && apartWords(timed.apart),
    doubled > 0 &&
      `${doubled === 1 ? 'one note begins' : `${doubled} notes begin`} while another of the key sounds`,
  ]
    .filter(Boolean)
    .join('; ');
  return { events: after, counts, ...(detail ? { detail } : {}) };
}

/** Everything but lengths; the events themselves where nothing differs. */
function withColumns(events: Events, marked: Uint8Array, settings: EditSeveral): Events {
  const { channel, data1, data2, bend, payload } = settings;
  const status = events.status.slice();
  const first = events.data1.slice();
  const second = events.data2.slice();
  const notes = notesOf(events);
  const partner = new Int32Array(events.count).fill(-1);
  for (let n = 0; n < notes.count; n++) {
    if (notes.off[n]! === -1) continue;
    partner[notes.on[n]!] = notes.off[n]!;
    partner[notes.off[n]!] = notes.on[n]!;
  }
  const onChannel = (row: number): void => {
    if (channel !== undefined) status[row] = (status[row]! & 0xf0) | (channel - 1);
    if (data1) first[row] = given(events.data1[row]!, data1, 0, 127);
  };
  let differing = false;
  const bytes = payload && Uint8Array.from(payload);
  const rewritten: number[] = [];
  for (let row = 0; row < events.count; row++) {
    if (!marked[row]) continue;
    if (bytes && events.status[row]! >= 0xf0 && !sameBytes(bytes, payloadOf(events, row)))
      rewritten.push(row);
    if (events.status[row]! >= 0xf0) continue;
    onChannel(row);
    if (partner[row] !== -1 && !marked[partner[row]!]) onChannel(partner[row]!);
    const isOn = events.status[row]! >> 4 === 9 && events.data2[row]! > 0;
    // The end of a note that is chosen with its beginning keeps its release velocity, and one that is
    // written as velocity 0 stays one.
    const isEnd = !isOn && partner[row] !== -1 && marked[partner[row]!] === 1;
    const isSilent = events.status[row]! >> 4 === 9 && !isOn;
    if (data2 && !isEnd && !isSilent)
      second[row] = given(events.data2[row]!, data2, isOn ? 1 : 0, 127);
    if (bend !== undefined) {
      first[row] = (bend + 8192) & 127;
      second[row] = (bend + 8192) >> 7;
    }
  }
  for (let row = 0; !differing && row < events.count; row++)
    differing =
      status[row] !== events.status[row] ||
      first[row] !== events.data1[row] ||
      second[row] !== events.data2[row];
  const columns = differing ? { ...events, status, data1: first, data2: second } : events;
  return bytes && rewritten.length > 0 ? withPayloads(columns, rewritten, bytes) : columns;
}

const differs = (a: Events, b: Events, row: number): boolean =>
  a !== b &&
  (a.status[row] !== b.status[row] ||
    a.data1[row] !== b.data1[row] ||
    a.data2[row] !== b.data2[row] ||
    (a.pool !== b.pool && !sameBytes(payloadOf(a, row), payloadOf(b, row))));
