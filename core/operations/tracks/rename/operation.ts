import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { tracksIn } from '../../../song/scope.ts';
import { trackLabel, type Track } from '../../../song/song.ts';
import { withTrackName } from '../../../song/track-name.ts';
import { defineOperation, type Change, type Report } from '../../operation.ts';
import { plainName } from '../../../edit/plain-text.ts';

export const tracksRename = defineOperation({
  id: 'tracks.rename',
  version: 1,
  title: 'Rename tracks',
  summary:
    'Gives tracks a name. With several tracks, {n} in the name becomes 1, 2, 3 … in their order.',
  group: 'tracks',
  scope: 'tracks',
  settings: z.strictObject({ name: plainName('Name') }),
  apply(song, { name }, scope) {
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    const changes: Change[] = [];
    const skipped: Report['skipped'][number][] = [];
    const renamed = new Map<string, Track>();
    inScope.value.forEach((track, index) => {
      const called = name.replaceAll('{n}', String(index + 1));
      const result = withTrackName(track, called, song.encoding);
      const before = trackLabel(song, track);
      if (result === track)
        skipped.push({ track: track.id, name: before, why: 'It already has this name.' });
      else
        changes.push({
          track: track.id,
          name: called,
          did: 'renamed',
          counts: { name: 1 },
          detail: `was ${before}`,
        });
      renamed.set(track.id, result);
    });
    if (changes.length === 0) return ok({ song, report: { changes, skipped } });
    return ok({
      song: { ...song, tracks: song.tracks.map((t) => renamed.get(t.id) ?? t) },
      report: { changes, skipped },
    });
  },
  describe({ name }, { changes }) {
    if (changes.length > 1) return `Renamed ${changes.length} tracks to “${name}”`;
    const [change] = changes;
    return `Renamed ${change?.detail?.replace(/^was /, '') ?? 'a track'} to “${change?.name ?? name}”`;
  },
  examples: [
    { says: 'Name one track', settings: { name: 'Clarinet' }, scope: { tracks: ['t2'] } },
    { says: 'Number all of them', settings: { name: 'Part {n}' } },
  ],
});
