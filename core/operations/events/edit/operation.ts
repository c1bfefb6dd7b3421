import { z } from 'zod';
import { refused, type Problem } from '../../../problems/problems.ts';
import { META, SYSEX, meta, payloadOf, type Events } from '../../../smf/events.ts';
import { sameBytes } from '../../../smf/chunks.ts';
import { withPayload } from '../../../smf/event-builder.ts';
import { notesOf } from '../../../song/notes.ts';
import { findTrack } from '../../../song/song.ts';
import { defineOperation } from '../../operation.ts';
import { kindOf } from '../../../edit/event-kinds.ts';
import { rowSetting, trackIdSetting, tracksFault } from '../../../edit/named-rows.ts';
import { sortedByTick } from '../../../edit/retime.ts';
import { rewriteTracks } from '../../../edit/rewrite.ts';

const data = z.int().min(0).max(127).optional();

export const eventsEdit = defineOperation({
  id: 'events.edit',
  version: 1,
  title: 'Edit an event',
  summary:
    'Changes one event: its place, its values or its bytes. A note keeps both its ends: moved, it moves whole; given another key, both have it.',
  group: 'events',
  scope: 'song',
  settings: z.strictObject({
    track: trackIdSetting.meta({ title: 'Track' }),
    row: rowSetting.meta({ title: 'Row' }),
    atTick: z.int().min(0).max(1_000_000_000_000).optional().meta({ title: 'At', unit: 'ticks' }),
    channel: z.int().min(1).max(16).optional().meta({ title: 'Channel' }),
    data1: data.meta({ title: 'First data byte' }),
    data2: data.meta({ title: 'Second data byte' }),
    length: z
      .int()
      .min(1)
      .max(1_000_000_000)
      .optional()
      .meta({ title: 'Length of a note', unit: 'ticks' }),
    payload: z
      .array(z.int().min(0).max(255))
      .max(100_000)
      .optional()
      .meta({ title: 'Bytes', description: 'Of system exclusive and meta events.' }),
  }),
  byHand: true,
  apply(song, settings) {
    const fault = tracksFault(song, [settings.track], 'settings.track');
    if (fault) return fault;
    const wrong = cannotBe(findTrack(song, settings.track)!.events, settings);
    if (wrong) return refused(wrong);
    return rewriteTracks(song, { tracks: [settings.track] }, (events) => edited(events, settings));
  },
  describe: (_, { changes }) =>
    `Edited ${Object.keys(changes[0]?.counts ?? {})[0] ?? 'an event'} in ${changes[0]?.name ?? 'a track'}`,
  examples: [
    {
      says: 'The first event of a track an eighth later',
      settings: { track: 't1', row: 0, atTick: 48 },
    },
  ],
});

interface Edit {
  readonly row: number;
  readonly atTick?: number | undefined;
  readonly channel?: number | undefined;
  readonly data1?: number | undefined;
  readonly data2?: number | undefined;
  readonly length?: number | undefined;
  readonly payload?: readonly number[] | undefined;
}

function cannotBe(
  events: Events,
  { row, channel, data1, data2, payload }: Edit,
): Problem | undefined {
  const wrong = (field: string, expected: string, found: string): Problem => ({
    code: 'settings-invalid',
    where: { field: `settings.${field}` },
    expected,
    found,
  });
  if (row >= events.count) return wrong('row', `0 to ${events.count - 1}`, `${row}`);
  const status = events.status[row]!;
  if (status < 0xf0) {
    if (payload) return wrong('payload', 'no bytes for a channel message', 'bytes');
    if (status >> 4 === 9 && events.data2[row]! > 0 && data2 === 0)
      return wrong('data2', 'a velocity of 1 or more', '0');
    return undefined;
  }
  if (channel !== undefined) return wrong('channel', 'a channel message', 'an event of no channel');
  if (data2 !== undefined)
    return wrong('data2', 'a channel message', 'an event without data bytes');
  if (data1 !== undefined && status >= SYSEX && status !== META)
    return wrong('data1', 'a channel message or a meta event', 'system exclusive');
  if (status === META && (data1 ?? 0) === meta.endOfTrack)
    return wrong('data1', 'another event than the end of track', 'end of track');
  if (status === META && events.data1[row] === meta.endOfTrack && (data1 !== undefined || payload))
    return wrong(
      'row',
      'an event other than the end of track, which only has a place',
      'the end of track',
    );
  return undefined;
}

function edited(before: Events, { row, atTick, channel, data1, data2, length, payload }: Edit) {
  const notes = notesOf(before);
  const note = notes.on.findIndex((on, n) => on === row || notes.off[n] === row);
  const on = note === -1 ? row : notes.on[note]!;
  const off = note === -1 ? -1 : notes.off[note]!;
  const ticks = before.atTick.slice();
  const rank = new Int8Array(before.count);
  const columns = {
    status: before.status.slice(),
    data1: before.data1.slice(),
    data2: before.data2.slice(),
  };
  if (atTick !== undefined) {
    const by = atTick - ticks[row]!;
    ticks[row] = atTick;
    if (row === on && off !== -1) ticks[off] = ticks[off]! + by;
  }
  if (length !== undefined && off !== -1) ticks[off] = ticks[on]! + length;
  if (off !== -1) {
    ticks[off] = Math.max(ticks[off]!, ticks[on]! + 1);
    if (ticks[off] !== before.atTick[off]) rank[off] = -1;
    if (ticks[on] !== before.atTick[on]) rank[on] = 1;
  }
  for (const r of off === -1 ? [row] : [on, off]) {
    if (data1 !== undefined && (r === row || note !== -1)) columns.data1[r] = data1;
    if (channel !== undefined) columns.status[r] = (columns.status[r]! & 0xf0) | (channel - 1);
  }
  if (data2 !== undefined && (columns.status[row]! & 0xe0) !== 0xc0) columns.data2[row] = data2;
  let after: Events = { ...before, ...columns };
  const bytes = payload && Uint8Array.from(payload);
  if (bytes && !sameBytes(bytes, payloadOf(before, row))) after = withPayload(after, row, bytes);
  const isEnd = row === before.count - 1;
  // The end of track cannot stand before what it ends.
  if (isEnd && before.count > 1) ticks[row] = Math.max(ticks[row]!, ticks[before.count - 2]!);
  const same =
    after.pool === before.pool &&
    [
      [columns.status, before.status],
      [columns.data1, before.data1],
      [columns.data2, before.data2],
      [ticks, before.atTick],
    ].every(([a, b]) => a!.every((v, i) => v === b![i]));
  if (same) return { left: 'It is so already.' };
  return {
    events: sortedByTick(after, ticks, rank),
    counts: { [kindOf(before, row) ?? (isEnd ? 'end of track' : 'note')]: 1 },
  };
}
