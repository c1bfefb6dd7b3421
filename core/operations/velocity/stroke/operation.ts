import { z } from 'zod';
import { refused } from '../../../problems/problems.ts';
import { findTrack } from '../../../song/song.ts';
import { defineOperation } from '../../operation.ts';
import { rowSetting, trackIdSetting, tracksFault } from '../../../edit/named-rows.ts';
import { counted, inTracks, rewriteTracks, totalOf } from '../../../edit/rewrite.ts';

export const velocityStroke = defineOperation({
  id: 'velocity.stroke',
  version: 1,
  title: 'Set velocities by stroke',
  summary: 'Gives single notes the velocities that were drawn for them.',
  group: 'velocity',
  scope: 'song',
  settings: z.strictObject({
    velocities: z
      .record(
        trackIdSetting,
        z
          .array(z.tuple([rowSetting, z.int().min(1).max(127)]))
          .min(1)
          .max(200_000),
      )
      .meta({
        title: 'Velocities',
        description: 'For each track id pairs of row (of a note-on) and velocity.',
      }),
  }),
  byHand: true,
  apply(song, { velocities }) {
    const fault = tracksFault(song, Object.keys(velocities), 'settings.velocities');
    if (fault) return fault;
    for (const [id, pairs] of Object.entries(velocities)) {
      const { status, data2, count } = findTrack(song, id)!.events;
      const wrong = pairs.find(
        ([row]) => row >= count || status[row]! >> 4 !== 9 || data2[row] === 0,
      );
      if (wrong)
        return refused({
          code: 'settings-invalid',
          where: { field: `settings.velocities.${id}` },
          expected: 'rows of note-ons',
          found: `row ${wrong[0]}`,
        });
    }
    return rewriteTracks(song, { tracks: Object.keys(velocities) }, (events, _, track) => {
      const data2 = events.data2.slice();
      const changed = new Set<number>();
      for (const [row, velocity] of velocities[track.id]!) {
        if (data2[row] !== velocity) changed.add(row);
        data2[row] = velocity;
      }
      return changed.size === 0
        ? { left: 'Its velocities are that already.' }
        : { events: { ...events, data2 }, counts: { note: changed.size } };
    });
  },
  describe: (_, report) =>
    `Drew the velocity of ${counted(totalOf(report), 'note')} ${inTracks(report)}`,
  examples: [],
});
