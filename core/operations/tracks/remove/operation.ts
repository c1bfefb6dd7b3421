import { z } from 'zod';
import { refused } from '../../../problems/problems.ts';
import { tracksIn } from '../../../song/scope.ts';
import { defineOperation } from '../../operation.ts';
import { removeTracks } from '../../../edit/remove-tracks.ts';

export const tracksRemove = defineOperation({
  id: 'tracks.remove',
  version: 1,
  title: 'Remove tracks',
  summary:
    'Takes tracks out of the song. Tempo, meter and what else belongs to the whole song stays.',
  group: 'tracks',
  scope: 'tracks',
  settings: z.strictObject({}),
  apply(song, _, scope) {
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    const leaving = new Set(inScope.value);
    if (leaving.size === song.tracks.length)
      return refused({ code: 'no-track-left', where: { field: 'scope.tracks' } });
    return removeTracks(song, leaving);
  },
  describe(_, { changes }) {
    const removed = changes.filter((c) => c.did === 'removed').map((c) => c.name);
    return removed.length > 3
      ? `Removed ${removed.length} tracks`
      : `Removed ${removed.join(', ')}`;
  },
  examples: [{ says: 'Remove one track', settings: {}, scope: { tracks: ['t2'] } }],
});
