import { z } from 'zod';
import { tracksIn } from '../../../song/scope.ts';
import { defineOperation } from '../../operation.ts';
import { isEmpty } from '../../../edit/empty.ts';
import { removeTracks } from '../../../edit/remove-tracks.ts';

export const tracksRemoveEmpty = defineOperation({
  id: 'tracks.remove-empty',
  version: 1,
  title: 'Remove empty tracks',
  summary:
    'Takes out tracks that hold neither notes nor words nor anything of the song; what they name or set goes with them.',
  group: 'tracks',
  scope: 'tracks',
  settings: z.strictObject({}),
  apply(song, _, scope) {
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    const leaving = new Set(inScope.value.filter((t) => t !== song.tracks[0] && isEmpty(t.events)));
    return removeTracks(
      song,
      leaving,
      leaving.size === 0
        ? [{ why: 'None of these tracks is empty; the first track stays in any case.' }]
        : [],
    );
  },
  describe: (_, { changes }) =>
    `Removed ${changes.filter((c) => c.did === 'removed').length} empty tracks`,
  examples: [{ says: 'All that are empty', settings: {} }],
});
