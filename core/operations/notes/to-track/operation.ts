import { z } from 'zod';
import { trackIdSetting } from '../../../edit/named-rows.ts';
import { counted, rewriteTracks, within, without } from '../../../edit/rewrite.ts';
import { ok, refused } from '../../../problems/problems.ts';
import { pickEvents } from '../../../smf/event-builder.ts';
import type { Events } from '../../../smf/events.ts';
import { mergeEvents } from '../../../smf/merge.ts';
import { notesOf } from '../../../song/notes.ts';
import { pressedNotes } from '../../../song/poly-pressure.ts';
import { channelsOf, findTrack, trackLabel, withEvents, type Track } from '../../../song/song.ts';
import { defineOperation, type Change } from '../../operation.ts';

export const notesToTrack = defineOperation({
  id: 'notes.to-track',
  version: 1,
  title: 'Move notes to another track',
  summary:
    'Puts notes into another track at their places, on the channel that it plays on, or copies them there.',
  group: 'notes',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    to: trackIdSetting.meta({ title: 'To track', offers: 'track' }),
    copy: z.boolean().default(false).meta({ title: 'Copy them' }),
  }),
  apply(song, { to, copy }, scope) {
    const home = findTrack(song, to);
    if (!home)
      return refused({ code: 'track-unknown', where: { field: 'settings.to' }, tracks: [to] });
    const taken: { events: Events; channel: number | undefined }[] = [];
    const [channel] = channelsOf(home.events);
    const done = rewriteTracks(song, scope, (events, span, track) => {
      if (track.id === to) return { left: 'They are in this track already.' };
      const notes = notesOf(events);
      const goes = new Uint8Array(events.count);
      let count = 0;
      for (let n = 0; n < notes.count; n++) {
        if (!within(span, events, notes.on[n]!)) continue;
        goes[notes.on[n]!] = 1;
        if (notes.off[n] !== -1) goes[notes.off[n]!] = 1;
        count++;
      }
      if (count === 0) return { left: 'It has no notes there.' };
      if (events.status.some((s) => s >> 4 === 0xa))
        for (const [row, n] of pressedNotes(events, notes)) goes[row] = goes[notes.on[n]!]!;
      const rows: number[] = [];
      for (let row = 0; row < events.count; row++)
        if (goes[row] === 1 || row === events.count - 1) rows.push(row);
      taken.push({ events: endingWithLast(pickEvents(events, rows)), channel });
      if (copy) return { left: '' };
      return { events: without(events, (row) => goes[row] === 1)!, counts: { note: count } };
    });
    if (!done.ok) return done;
    const skipped = done.value.report.skipped.filter((s) => s.why !== '');
    if (taken.length === 0) return ok({ song, report: { changes: [], skipped } });
    const brought = taken.map((t) => onChannelOf(t.events, t.channel));
    const events = mergeEvents([home.events, ...brought]);
    const count = brought.reduce((sum, e) => sum + notesOf(e).count, 0);
    const change: Change = {
      track: to,
      name: trackLabel(song, home),
      did: 'changed',
      counts: { note: count },
      detail: `${counted(count, 'note')} ${copy ? 'copied' : 'moved'} here`,
    };
    const tracks = done.value.song.tracks.map((t): Track =>
      t.id === to ? withEvents(t, events) : t,
    );
    return ok({
      song: { ...song, tracks },
      report: { changes: [change, ...done.value.report.changes], skipped },
    });
  },
  describe: ({ copy }, report) => {
    const [home] = report.changes;
    return home
      ? `${copy ? 'Copied' : 'Moved'} ${counted(home.counts['note'] ?? 0, 'note')} to ${home.name}`
      : 'Moved no notes';
  },
  examples: [
    {
      says: 'What the third track plays, to the second',
      settings: { to: 't2' },
      scope: { tracks: ['t3'] },
    },
    { says: 'Copied', settings: { to: 't2', copy: true }, scope: { tracks: ['t3'] } },
  ],
});

/** Ends with its last note, so that no rest behind it makes another track longer. */
function endingWithLast(events: Events): Events {
  const atTick = events.atTick.slice();
  atTick[events.count - 1] = events.count > 1 ? atTick[events.count - 2]! : 0;
  return { ...events, atTick };
}

/** On one channel, where there is one. */
const onChannelOf = (events: Events, channel: number | undefined): Events =>
  channel === undefined
    ? events
    : { ...events, status: events.status.map((s) => (s < 0xf0 ? (s & 0xf0) | channel : s)) };
