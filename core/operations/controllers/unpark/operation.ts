import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { parkedRows, parseLaneKey } from '../../../song/lanes.ts';
import { tracksIn } from '../../../song/scope.ts';
import { trackLabel, withParked, type Track } from '../../../song/song.ts';
import { anyLane, isNamed, laneList } from '../../../edit/lane-settings.ts';
import { inTracks } from '../../../edit/rewrite.ts';
import { defineOperation, type Change, type Report } from '../../operation.ts';

export const controllersUnpark = defineOperation({
  id: 'controllers.unpark',
  version: 1,
  title: 'Unpark lanes',
  summary: 'Puts parked lanes back into play, every event exactly where it was.',
  group: 'controllers',
  scope: 'tracks',
  settings: z.strictObject({
    lanes: z.array(anyLane).max(123).default([]).meta({
      title: 'Lanes',
      description: 'All parked lanes where none is named.',
      offers: 'lanes',
    }),
  }),
  apply(song, { lanes }, scope) {
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    const changes: Change[] = [];
    const skipped: Report['skipped'][number][] = [];
    const back = new Map<string, Track>();
    for (const track of inScope.value) {
      const name = trackLabel(song, track);
      const parked = track.parked ?? [];
      const left = parked.filter((key) => !isNamed(lanes, parseLaneKey(key).what));
      if (left.length === parked.length) {
        skipped.push({ track: track.id, name, why: 'It has no such parked lane.' });
        continue;
      }
      const now = withParked(track, left);
      back.set(track.id, now);
      changes.push({
        track: track.id,
        name,
        did: 'changed',
        counts: { 'parked event': parkedCount(track) - parkedCount(now) },
        detail: 'played and sent again',
      });
    }
    if (changes.length === 0) return ok({ song, report: { changes, skipped } });
    return ok({
      song: { ...song, tracks: song.tracks.map((t) => back.get(t.id) ?? t) },
      report: { changes, skipped },
    });
  },
  describe: ({ lanes }, report) => `Unparked ${laneList(lanes)} ${inTracks(report)}`,
  examples: [{ says: 'Everything that is parked', settings: {} }],
});

function parkedCount(track: Track): number {
  const isParked = parkedRows(track);
  let count = 0;
  for (let i = 0; i < track.events.count; i++) if (isParked(i)) count++;
  return count;
}
