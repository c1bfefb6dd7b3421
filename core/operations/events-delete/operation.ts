import { z } from 'zod';
import { refused } from '../../problems/problems.ts';
import { notesOf } from '../../song/notes.ts';
import { findTrack } from '../../song/song.ts';
import type { Events } from '../../smf/events.ts';
import { defineOperation } from '../operation.ts';
import { lost } from '../events-remove/operation.ts';
import { counted, inTracks, rewriteTracks, totalOf, without } from '../rewrite.ts';

const row = z.int().min(0).max(100_000_000);

export const eventsDelete = defineOperation({
  id: 'events.delete',
  version: 1,
  title: 'Delete events',
  summary: 'Takes out single events, named by their rows in each track; a note goes with both its ends.',
  group: 'events',
  scope: 'song',
  settings: z.strictObject({
    rows: z
      .record(z.string().max(40), z.array(z.tuple([row, row])).min(1).max(50_000))
      .meta({ title: 'Rows', description: 'For each track id, spans of rows (first and last, from 0) in the revision that the step is taken on.' }),
    wholeNotes: z.boolean().default(true).meta({ title: 'Notes go whole' }),
  }),
  apply(song, { rows, wholeNotes }) {
    const unknown = Object.keys(rows).filter((id) => !findTrack(song, id));
    if (unknown.length > 0) return refused({ code: 'track-unknown', where: { field: 'settings.rows' }, tracks: unknown });
    for (const [id, spans] of Object.entries(rows)) {
      const { count } = findTrack(song, id)!.events;
      const wrong = spans.find(([from, to]) => from > to || to >= count);
      if (wrong) return refused({ code: 'settings-invalid', where: { field: `settings.rows.${id}` }, expected: `spans within 0 to ${count - 1}`, found: wrong.join(' to ') });
    }
    if (Object.keys(rows).length === 0) return refused({ code: 'settings-invalid', where: { field: 'settings.rows' }, expected: 'at least one track', found: 'none' });
    return rewriteTracks(song, { tracks: Object.keys(rows) }, (events, _, track) => {
      const marked = markedRows(events, rows[track.id]!, wholeNotes);
      const kept = without(events, (i) => marked[i] === 1);
      return kept ? { events: kept, counts: counts(events, kept) } : { left: 'Only its end of track was named, which stays.' };
    });
  },
  describe: (_, report) => `Deleted ${counted(totalOf(report), 'event')} ${inTracks(report)}`,
  examples: [{ says: 'The first event of a track', settings: { rows: { t1: [[0, 0]] } } }],
});

function markedRows(events: Events, spans: readonly (readonly [number, number])[], wholeNotes: boolean): Uint8Array {
  const marked = new Uint8Array(events.count);
  for (const [from, to] of spans) marked.fill(1, from, to + 1);
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
