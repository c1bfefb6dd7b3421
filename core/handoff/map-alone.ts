import { ok, type Result } from '../problems/problems.ts';
import type { Song } from '../song/song.ts';
import { makeHandoff } from './handoff.ts';

/**
 * The map of a song as a file of its own: tempos, meters, keys, markers, cue points, sections, timecode and
 * length, and no music. What does not travel stays here. What many tracks state alike, as keys often are,
 * is said once.
 */
export function mapAlone(song: Song): Result<Uint8Array> {
  const before = { received: song, asRead: song };
  const made = makeHandoff(song, before, { divide: 'map', format: 1, chunks: false });
  return made.ok ? ok(made.value.bytes) : made;
}
