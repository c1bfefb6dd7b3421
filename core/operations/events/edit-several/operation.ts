import { refused, type Problem } from '../../../problems/problems.ts';
import { META, meta, type Events } from '../../../smf/events.ts';
import { markRows, rowsFault } from '../../../edit/named-rows.ts';
import { counted, inTracks, rewriteTracks } from '../../../edit/rewrite.ts';
import { notesOf } from '../../../song/notes.ts';
import { findTrack, type Song } from '../../../song/song.ts';
import { defineOperation } from '../../operation.ts';
import { edited } from './edited.ts';
import { editSeveralSettings, type EditSeveral } from './settings.ts';

export const eventsEditSeveral = defineOperation({
  id: 'events.edit-several',
  version: 1,
  title: 'Edit several events',
  summary:
    'Gives events that were chosen by hand the same channel, value, length or bytes, or adds to what each has. Notes keep both their ends; lengths stop at the next note of their key.',
  group: 'events',
  scope: 'song',
  byHand: true,
  settings: editSeveralSettings,
  apply(song, settings) {
    const fault = rowsFault(song, settings.rows);
    if (fault) return fault;
    const wrong = cannotBe(song, settings);
    if (wrong) return refused(wrong);
    return rewriteTracks(song, { tracks: Object.keys(settings.rows) }, (events, _, track) =>
      edited(events, settings.rows[track.id]!, settings),
    );
  },
  describe: (_, report) => {
    const total = report.changes.reduce(
      (sum, { counts }) => sum + Object.values(counts).reduce((a, b) => a + b, 0),
      0,
    );
    return `Edited ${counted(total, 'event')} ${inTracks(report)}`;
  },
  examples: [
    {
      says: 'The first two events of a track to channel 3',
      settings: { rows: { t1: [[0, 1]] }, channel: 3 },
    },
  ],
});

/** What a row is: messages of one status, meta events of one type; both ends of a note are the note. */
function sortOf(events: Events, row: number): number {
  const status = events.status[row]!;
  if (status === META) return 0x100 + events.data1[row]!;
  return status < 0xf0 ? status & 0xf0 : status;
}

/** The sorts of the named rows; the note-offs of notes that are named too are part of these. */
function sortsIn(song: Song, rows: EditSeveral['rows']): Set<number> {
  const sorts = new Set<number>();
  for (const [id, spans] of Object.entries(rows)) {
    const { events } = findTrack(song, id)!;
    const marked = markRows(events, spans);
    const notes = notesOf(events);
    for (let n = 0; n < notes.count; n++)
      if (notes.off[n]! !== -1 && marked[notes.on[n]!]) marked[notes.off[n]!] = 0;
    for (let row = 0; row < events.count; row++) if (marked[row]) sorts.add(sortOf(events, row));
  }
  return sorts;
}

const wrong = (field: string, expected: string, found: string): Problem => ({
  code: 'settings-invalid',
  where: { field: `settings.${field}` },
  expected,
  found,
});

/** What these events cannot be given. */
function cannotBe(song: Song, settings: EditSeveral): Problem | undefined {
  const { rows, channel, data1, data2, bend, length, payload } = settings;
  const given = { data1, data2, bend, length, payload };
  const names = Object.entries(given).flatMap(([name, value]) => (value === undefined ? [] : name));
  if (names.length === 0 && channel === undefined)
    return wrong('rows', 'something to change of them', 'nothing');
  const sorts = sortsIn(song, rows);
  const [sort = 0] = sorts;
  if (names.length > 0 && sorts.size > 1)
    return wrong(
      names[0]!,
      'events of one kind, whose values mean the same',
      `${sorts.size} kinds; choose those of one kind, or give a channel alone`,
    );
  const onChannel = [...sorts].every((s) => s < 0xf0);
  if (channel !== undefined && !onChannel)
    return wrong('channel', 'channel messages', 'events of no channel among them');
  if (sort === 0x100 + meta.endOfTrack) return wrong('rows', 'other events', 'the end of a track');
  if ((data1 ?? data2) && sort >= 0xf0)
    return wrong(data1 ? 'data1' : 'data2', 'channel messages', 'events without data bytes');
  if (data2 && (sort === 0xc0 || sort === 0xd0))
    return wrong('data2', 'messages of two data bytes', 'messages of one');
  if (bend !== undefined && sort !== 0xe0) return wrong('bend', 'pitch bend', 'other events');
  if (length && sort !== 0x90) return wrong('length', 'notes', 'other events');
  if (payload && sort < 0xf0)
    return wrong('payload', 'no bytes for a channel message', `${payload.length} bytes`);
  if (sort === 0x90 && data2 && 'to' in data2 && data2.to === 0)
    return wrong('data2', 'a velocity of 1 or more', '0');
  return undefined;
}
