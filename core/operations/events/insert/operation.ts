import { z } from 'zod';
import { META, SYSEX, SYSEX_PACKET, meta, type EventValue } from '../../../smf/events.ts';
import { eventsFrom, packEvents } from '../../../smf/event-builder.ts';
import { mergeEvents } from '../../../smf/merge.ts';
import { defineOperation } from '../../operation.ts';
import { countKinds } from '../../../edit/event-kinds.ts';
import { trackIdSetting, tracksFault } from '../../../edit/named-rows.ts';
import { rewriteTracks } from '../../../edit/rewrite.ts';

const tick = z.int().min(0).max(1_000_000_000_000);
const byte = z.int().min(0).max(255);

export const eventsInsert = defineOperation({
  id: 'events.insert',
  version: 1,
  title: 'Insert an event',
  summary:
    'Adds one event to a track: a note with its end, a channel message, system exclusive or a meta event.',
  group: 'events',
  scope: 'song',
  settings: z
    .strictObject({
      track: trackIdSetting.meta({ title: 'Track' }),
      atTick: tick.meta({ title: 'At', unit: 'ticks' }),
      status: z.int().min(0x80).max(0xff).meta({
        title: 'Status',
        description: '128 to 239 a channel message, 240 or 247 system exclusive, 255 a meta event.',
      }),
      data1: z
        .int()
        .min(0)
        .max(127)
        .default(0)
        .meta({ title: 'First data byte', description: 'For a meta event its type.' }),
      data2: z.int().min(0).max(127).default(0).meta({ title: 'Second data byte' }),
      length: z
        .int()
        .min(1)
        .max(1_000_000_000)
        .default(1)
        .meta({ title: 'Length of a note', unit: 'ticks' }),
      payload: z
        .array(byte)
        .max(100_000)
        .default([])
        .meta({ title: 'Bytes', description: 'Of system exclusive and meta events.' }),
    })
    .refine(({ status }) => status < 0xf0 || [SYSEX, SYSEX_PACKET, META].includes(status), {
      message: 'a channel message, system exclusive or a meta event',
      path: ['status'],
    })
    .refine(({ status, data1 }) => status !== META || data1 !== meta.endOfTrack, {
      message: 'another event than the end of track',
      path: ['data1'],
    })
    .refine(({ status, data2 }) => status >> 4 !== 9 || data2 > 0, {
      message: 'a velocity of 1 or more',
      path: ['data2'],
    })
    .refine(({ status, payload }) => status >= 0xf0 || payload.length === 0, {
      message: 'no bytes for a channel message',
      path: ['payload'],
    }),
  byHand: true,
  apply(song, { track, atTick, status, data1, data2, length, payload }) {
    const fault = tracksFault(song, [track], 'settings.track');
    if (fault) return fault;
    const plain =
      (status & 0xe0) === 0xc0 || status === SYSEX || status === SYSEX_PACKET || status === META;
    const event: EventValue = {
      atTick,
      status,
      data1: status === SYSEX || status === SYSEX_PACKET ? 0 : data1,
      data2: plain ? 0 : data2,
      payload: Uint8Array.from(payload),
    };
    return rewriteTracks(song, { tracks: [track] }, (events) => {
      const added = eventsFrom([event]);
      // A note begins after what its tick holds; everything else, and the note's end, stands before.
      const off = eventsFrom([
        { ...event, atTick: atTick + length, status: 0x80 | (status & 15), data2: 64 },
      ]);
      return {
        events:
          status >> 4 === 9 ? mergeEvents([off, events, added]) : mergeEvents([added, events]),
        counts: countKinds(packEvents([event])),
      };
    });
  },
  describe: (_, { changes }) =>
    `Inserted ${Object.keys(changes[0]?.counts ?? {})[0] ?? 'an event'} in ${changes[0]?.name ?? 'a track'}`,
  examples: [
    { says: 'A volume', settings: { track: 't1', atTick: 0, status: 0xb0, data1: 7, data2: 100 } },
  ],
});
