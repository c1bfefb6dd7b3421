import { ok, type Result } from '../problems/problems.ts';
import { trackLabel, type Song, type Track } from '../song/song.ts';
import type { Applied, Change, Report } from './report.ts';
import { countKinds } from './event-kinds.ts';
import { settleTiming } from './settle-timing.ts';
import { withTracks } from './track-list.ts';

/**
 * The song without some of its tracks, of which at least one is left; what in them is the whole song's
 * stays, in the first.
 */
export function removeTracks(
  song: Song,
  leaving: ReadonlySet<Track>,
  skipped: Report['skipped'] = [],
): Result<Applied> {
  const changes = [...leaving].map((t): Change => ({
    track: t.id,
    name: trackLabel(song, t),
    did: 'removed',
    counts: countKinds(t.events),
  }));
  if (changes.length === 0) return ok({ song, report: { changes, skipped } });
  const settled = settleTiming(
    song,
    withTracks(
      song,
      song.tracks.filter((t) => !leaving.has(t)),
    ),
  );
  return ok({ song: settled.song, report: { changes: [...changes, ...settled.changes], skipped } });
}
