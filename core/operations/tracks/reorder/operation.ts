import { z } from 'zod';
import { ok, refused } from '../../../problems/problems.ts';
import { tracksIn } from '../../../song/scope.ts';
import { findTrack, trackLabel, trackPlaces } from '../../../song/song.ts';
import { defineOperation, emptyReport, type Change } from '../../operation.ts';
import { settleTiming } from '../../../edit/settle-timing.ts';

export const tracksReorder = defineOperation({
  id: 'tracks.reorder',
  version: 1,
  title: 'Reorder tracks',
  summary: 'Puts tracks before another one, or at the end; they keep their order among themselves.',
  group: 'tracks',
  scope: 'tracks',
  settings: z.strictObject({
    before: z.string().max(40).nullable().default(null).meta({
      title: 'Before',
      description: 'Id of the track they are put before; null for the end.',
    }),
  }),
  apply(song, { before }, scope) {
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    if (before !== null && !findTrack(song, before))
      return refused({
        code: 'track-unknown',
        where: { field: 'settings.before' },
        tracks: [before],
      });
    const moving = new Set(inScope.value);
    const target = before === null ? song.tracks.length : trackPlaces(song).get(before)!;
    const tracks = [
      ...song.tracks.slice(0, target).filter((t) => !moving.has(t)),
      ...inScope.value,
      ...song.tracks.slice(target).filter((t) => !moving.has(t)),
    ];
    if (tracks.every((t, i) => t === song.tracks[i])) return ok({ song, report: emptyReport });
    const reordered = { ...song, tracks };
    const from = trackPlaces(song);
    const to = trackPlaces(reordered);
    const changes: Change[] = inScope.value
      .filter(({ id }) => from.get(id) !== to.get(id))
      .map((t) => ({
        track: t.id,
        name: trackLabel(song, t),
        did: 'moved',
        counts: {},
        detail: `from place ${from.get(t.id)! + 1} to ${to.get(t.id)! + 1}`,
      }));
    const settled = settleTiming(song, reordered);
    return ok({
      song: settled.song,
      report: { changes: [...changes, ...settled.changes], skipped: [] },
    });
  },
  describe(_, { changes }) {
    const moved = changes.filter((c) => c.did === 'moved');
    return moved.length === 1
      ? `Moved ${moved[0]!.name} ${moved[0]!.detail}`
      : `Moved ${moved.length} tracks`;
  },
  examples: [
    { says: 'Put a track at the end', settings: { before: null }, scope: { tracks: ['t2'] } },
    { says: 'Put it before another', settings: { before: 't2' }, scope: { tracks: ['t3'] } },
  ],
});
