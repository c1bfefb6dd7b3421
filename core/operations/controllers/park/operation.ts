import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { laneAt, laneKey, type LaneName } from '../../../song/lanes.ts';
import { tracksIn } from '../../../song/scope.ts';
import { trackLabel, withParked, type Track } from '../../../song/song.ts';
import { anyLane, laneList } from '../../../edit/lane-settings.ts';
import { counted, inTracks, totalOf } from '../../../edit/rewrite.ts';
import { defineOperation, type Change, type Report } from '../../operation.ts';

export const controllersPark = defineOperation({
  id: 'controllers.park',
  version: 1,
  title: 'Park lanes',
  summary:
    'Sets controller lanes, bend, pressure or programs aside: they are kept where they are, but not played and not sent, until they are unparked.',
  group: 'controllers',
  scope: 'tracks',
  settings: z.strictObject({
    lanes: z.array(anyLane).min(1).max(123).meta({
      title: 'Lanes',
      description: 'Controllers by their numbers, bend, pressure, program.',
      offers: 'lanes',
    }),
  }),
  apply(song, { lanes }, scope) {
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    const changes: Change[] = [];
    const skipped: Report['skipped'][number][] = [];
    const parkedTracks = new Map<string, Track>();
    for (const track of inScope.value) {
      const name = trackLabel(song, track);
      const found = lanesNamed(track, lanes);
      if (found.size === 0) {
        skipped.push({
          track: track.id,
          name,
          why: 'It has no such lane that is not parked already.',
        });
        continue;
      }
      parkedTracks.set(
        track.id,
        withParked(track, [...(track.parked ?? []), ...found.keys()].sort()),
      );
      changes.push({
        track: track.id,
        name,
        did: 'changed',
        counts: { 'parked event': [...found.values()].reduce((a, b) => a + b, 0) },
        detail: 'kept, but not played and not sent',
      });
    }
    if (changes.length === 0) return ok({ song, report: { changes, skipped } });
    return ok({
      song: { ...song, tracks: song.tracks.map((t) => parkedTracks.get(t.id) ?? t) },
      report: { changes, skipped },
    });
  },
  describe: ({ lanes }, report) =>
    `Parked ${laneList(lanes)} ${inTracks(report)}: ${counted(totalOf(report), 'event')} kept, not sent`,
  examples: [
    { says: 'Volume and expression', settings: { lanes: [7, 11] } },
    { says: 'Programs', settings: { lanes: ['program'] } },
  ],
});

/** Keys of the named lanes that occur in a track and are not parked, with how many events each has. */
function lanesNamed(track: Track, lanes: readonly LaneName[]): Map<string, number> {
  const had = new Set(track.parked ?? []);
  const found = new Map<string, number>();
  for (let i = 0; i < track.events.count; i++) {
    if (track.events.status[i]! >= 0xf0) continue;
    const lane = laneAt(track.events, i);
    if (!lane || !lanes.includes(lane.what)) continue;
    const key = laneKey(lane.channel, lane.what);
    if (!had.has(key)) found.set(key, (found.get(key) ?? 0) + 1);
  }
  return found;
}
