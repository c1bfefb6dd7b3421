import { z } from 'zod';
import { ok } from '../../problems/problems.ts';
import { tracksIn } from '../../song/scope.ts';
import { trackLabel } from '../../song/song.ts';
import { isEmpty } from '../shared/empty.ts';
import { countKinds } from '../shared/event-kinds.ts';
import { settleTiming } from '../shared/settle-timing.ts';
import { withTracks } from '../shared/track-list.ts';
import { defineOperation, type Change, type Report } from '../operation.ts';

export const tracksRemoveEmpty = defineOperation({
  id: 'tracks.remove-empty',
  version: 1,
  title: 'Remove empty tracks',
  summary: 'Takes out tracks that hold neither notes nor words nor anything of the song; what they name or set goes with them.',
  group: 'tracks',
  scope: 'tracks',
  settings: z.strictObject({}),
  apply(song, _, scope) {
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    const leaving = new Set(inScope.value.filter((t) => t !== song.tracks[0] && isEmpty(t.events)));
    const skipped: Report['skipped'] = leaving.size === 0 ? [{ why: 'None of these tracks is empty; the first track stays in any case.' }] : [];
    const changes: Change[] = [...leaving].map((t) => ({ track: t.id, name: trackLabel(song, t), did: 'removed', counts: countKinds(t.events) }));
    if (changes.length === 0) return ok({ song, report: { changes, skipped } });
    const settled = settleTiming(song, withTracks(song, song.tracks.filter((t) => !leaving.has(t))));
    return ok({ song: settled.song, report: { changes: [...changes, ...settled.changes], skipped } });
  },
  describe: (_, { changes }) => `Removed ${changes.filter((c) => c.did === 'removed').length} empty tracks`,
  examples: [{ says: 'All that are empty', settings: {} }],
});
