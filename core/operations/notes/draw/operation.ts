import { z } from 'zod';
import { percussionChannel } from '../../../instruments/general-midi.ts';
import { eventsFrom } from '../../../smf/event-builder.ts';
import { channelEvent } from '../../../smf/events.ts';
import { mergeEvents } from '../../../smf/merge.ts';
import { channelsOf } from '../../../song/song.ts';
import { defineOperation } from '../../operation.ts';
import { trackIdSetting, tracksFault } from '../../../edit/named-rows.ts';
import { counted, inTracks, rewriteTracks, totalOf } from '../../../edit/rewrite.ts';

const tick = z.int().min(0).max(1_000_000_000_000);
const note = z.strictObject({
  atTick: tick,
  length: z.int().min(1).max(1_000_000_000),
  key: z.int().min(0).max(127),
  velocity: z.int().min(1).max(127),
});

export const notesDraw = defineOperation({
  id: 'notes.draw',
  version: 1,
  title: 'Draw notes',
  summary: 'Adds notes to tracks, on the channel that each plays on.',
  group: 'notes',
  scope: 'song',
  settings: z.strictObject({
    notes: z.record(trackIdSetting, z.array(note).min(1).max(50_000)).meta({
      title: 'Notes',
      description: 'For each track id its new notes: ticks, key, velocity.',
    }),
  }),
  byHand: true,
  apply(song, { notes }) {
    const fault = tracksFault(song, Object.keys(notes), 'settings.notes');
    if (fault) return fault;
    return rewriteTracks(song, { tracks: Object.keys(notes) }, (events, _, track) => {
      const channel =
        channelsOf(events)[0] ?? freeChannel(song.tracks.flatMap((t) => channelsOf(t.events)));
      const offs = notes[track.id]!.map((n) =>
        channelEvent(n.atTick + n.length, 0x80 | channel, n.key, 64),
      );
      const ons = notes[track.id]!.map((n) =>
        channelEvent(n.atTick, 0x90 | channel, n.key, n.velocity),
      );
      // Note-offs stand first on their tick, note-ons last: neighbours on one key do not cut each other off.
      return {
        events: mergeEvents([eventsFrom(offs), events, eventsFrom(ons)]),
        counts: { note: ons.length },
      };
    });
  },
  describe: (_, report) => `Drew ${counted(totalOf(report), 'note')} ${inTracks(report)}`,
  examples: [
    {
      says: 'One note',
      settings: { notes: { t1: [{ atTick: 0, length: 48, key: 60, velocity: 80 }] } },
    },
  ],
});

/** The first channel that nothing uses, the drum channel left out; channel 1 where none is free. */
function freeChannel(used: readonly number[]): number {
  for (let c = 0; c < 16; c++) if (c !== percussionChannel && !used.includes(c)) return c;
  return 0;
}
