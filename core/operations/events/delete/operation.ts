import { z } from 'zod';
import { notesOf } from '../../../song/notes.ts';
import type { Events } from '../../../smf/events.ts';
import { defineOperation } from '../../operation.ts';
import { markRows, rowsFault, rowsSetting } from '../../../edit/named-rows.ts';
import { lost } from '../../../edit/event-kinds.ts';
import type { Report } from '../../../edit/report.ts';
import { counted, inTracks, rewriteTracks, without } from '../../../edit/rewrite.ts';

export const eventsDelete = defineOperation({
  id: 'events.delete',
  version: 1,
  title: 'Delete events',
  summary:
    'Takes out single events, named by their rows in each track; a note goes with both its ends.',
  group: 'events',
  scope: 'song',
  settings: z.strictObject({
    rows: rowsSetting,
    wholeNotes: z.boolean().default(true).meta({ title: 'Notes go whole' }),
  }),
  apply(song, { rows, wholeNotes }) {
    const fault = rowsFault(song, rows);
    if (fault) return fault;
    return rewriteTracks(song, { tracks: Object.keys(rows) }, (events, _, track) => {
      const marked = markedRows(events, rows[track.id]!, wholeNotes);
      const kept = without(events, (i) => marked[i] === 1);
      return kept
        ? { events: kept, counts: counts(events, kept) }
        : { left: 'Only its end of track was named, which stays.' };
    });
  },
  byHand: true,
  describe: (_, report) => `Deleted ${byKind(report)} ${inTracks(report)}`,
  examples: [{ says: 'The first event of a track', settings: { rows: { t1: [[0, 0]] } } }],
});

/** How many went of each kind, the most first; of many kinds the others together. */
function byKind({ changes }: Report): string {
  const total: Record<string, number> = {};
  for (const { counts: its } of changes)
    for (const [kind, n] of Object.entries(its)) total[kind] = (total[kind] ?? 0) + n;
  const kinds = Object.entries(total).sort(([, a], [, b]) => b - a);
  const rest = kinds.slice(mostKinds).reduce((sum, [, n]) => sum + n, 0);
  return [
    ...kinds.slice(0, mostKinds).map(([kind, n]) => counted(n, words[kind] ?? kind)),
    ...(rest > 0 ? [counted(rest, 'other event')] : []),
  ].join(', ');
}
const mostKinds = 3;
const words: Readonly<Record<string, string>> = {
  program: 'program change',
  pressure: 'pressure value',
  'system exclusive': 'system exclusive message',
  other: 'other event',
};

function markedRows(
  events: Events,
  spans: readonly (readonly [number, number])[],
  wholeNotes: boolean,
): Uint8Array {
  const marked = markRows(events, spans);
  if (!wholeNotes) return marked;
  const notes = notesOf(events);
  for (let n = 0; n < notes.count; n++) {
    const off = notes.off[n]!;
    if (off === -1 || (!marked[notes.on[n]!] && !marked[off])) continue;
    marked[notes.on[n]!] = 1;
    marked[off] = 1;
  }
  return marked;
}

/** What went, by kind; note-offs that went alone count as such. */
function counts(before: Events, after: Events): Record<string, number> {
  const byKind = lost(before, after);
  return Object.keys(byKind).length > 0 ? byKind : { 'note-off': before.count - after.count };
}
