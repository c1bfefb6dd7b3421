import type { Song, Track } from '../song/song.ts';

/**
 * The song with another list of tracks; alien chunks keep standing before the track they stood before, or
 * before the next that is left.
 */
export function withTracks(song: Song, tracks: readonly Track[], nextTrack = song.nextTrack): Song {
  if (song.alienChunks.length === 0) return { ...song, tracks, nextTrack };
  const place = new Map(tracks.map((t, i) => [t.id, i]));
  const alienChunks = song.alienChunks.map((chunk) => {
    const follower = song.tracks.slice(chunk.beforeTrack).find((t) => place.has(t.id));
    return { ...chunk, beforeTrack: follower ? place.get(follower.id)! : tracks.length };
  });
  return { ...song, tracks, nextTrack, alienChunks };
}
