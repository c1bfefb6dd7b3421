import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { tracksIn } from '../../../song/scope.ts';
import { trackName, type Track } from '../../../song/song.ts';
import { withTrackName } from '../../../song/track-name.ts';
import { defineOperation, type Change } from '../../operation.ts';

export const tracksUnique = defineOperation({
  id: 'tracks.unique',
  version: 1,
  title: 'Make names unique',
  summary:
    'Numbers tracks that share a name, so that programs which tell tracks by name keep them apart.',
  group: 'tracks',
  scope: 'tracks',
  settings: z.strictObject({}),
  apply(song, _, scope) {
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    const names = new Map(song.tracks.map((t) => [t.id, trackName(t, song.encoding)]));
    const taken = new Set(names.values());
    const everywhere = new Map<string, number>();
    for (const name of names.values()) everywhere.set(name, (everywhere.get(name) ?? 0) + 1);
    const shared = new Map<string, Track[]>();
    for (const t of inScope.value) {
      const name = names.get(t.id)!;
      const alike = shared.get(name);
      if (alike) alike.push(t);
      else if (name !== '') shared.set(name, [t]);
    }
    const changes: Change[] = [];
    const renamed = new Map<string, Track>();
    for (const [name, tracks] of shared) {
      const others = everywhere.get(name)! > tracks.length;
      let n = 2;
      // The first keeps its name where no track outside the scope has it too.
      for (const track of tracks.slice(others ? 0 : 1)) {
        while (taken.has(`${name} ${n}`)) n++;
        taken.add(`${name} ${n}`);
        renamed.set(track.id, withTrackName(track, `${name} ${n}`, song.encoding));
        changes.push({
          track: track.id,
          name: `${name} ${n}`,
          did: 'renamed',
          counts: { name: 1 },
          detail: `was ${name}`,
        });
      }
    }
    if (changes.length === 0)
      return ok({
        song,
        report: { changes, skipped: [{ why: 'No two of these tracks share a name.' }] },
      });
    return ok({
      song: { ...song, tracks: song.tracks.map((t) => renamed.get(t.id) ?? t) },
      report: { changes, skipped: [] },
    });
  },
  describe: (_, { changes }) => `Gave ${changes.length} tracks names of their own`,
  examples: [{ says: 'Every track', settings: {} }],
});
