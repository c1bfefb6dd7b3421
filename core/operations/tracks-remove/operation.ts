import { z } from 'zod';
import { ok, refused } from '../../problems/problems.ts';
import { tracksIn } from '../../song/scope.ts';
import { trackLabel } from '../../song/song.ts';
import { countKinds } from '../shared/event-kinds.ts';
import { defineOperation, type Change } from '../operation.ts';
import { settleTiming } from '../shared/settle-timing.ts';

export const tracksRemove = defineOperation({
  id: 'tracks.remove',
  version: 1,
  title: 'Remove tracks',
  summary: 'Takes tracks out of the song. Tempo, meter and what else belongs to the whole song stays.',
  group: 'tracks',
  scope: 'tracks',
  settings: z.strictObject({}),
  apply(song, _, scope) {
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    const leaving = new Set(inScope.value);
    const tracks = song.tracks.filter((t) => !leaving.has(t));
    if (tracks.length === 0) return refused({ code: 'no-track-left', where: { field: 'scope.tracks' } });
    const changes: Change[] = inScope.value.map((t) => ({ track: t.id, name: trackLabel(song, t), did: 'removed', counts: countKinds(t.events) }));
    const alienChunks = song.alienChunks.map((chunk) => ({ ...chunk, beforeTrack: song.tracks.slice(0, chunk.beforeTrack).filter((t) => !leaving.has(t)).length }));
    const settled = settleTiming(song, { ...song, tracks, alienChunks });
    return ok({ song: settled.song, report: { changes: [...changes, ...settled.changes], skipped: [] } });
  },
  describe(_, { changes }) {
    const removed = changes.filter((c) => c.did === 'removed').map((c) => c.name);
    return removed.length > 3 ? `Removed ${removed.length} tracks` : `Removed ${removed.join(', ')}`;
  },
  examples: [{ says: 'Remove one track', settings: {}, scope: { tracks: ['t2'] } }],
});
