import { heardOn } from './heard.ts';
import { percussionChannel } from '../instruments/general-midi.ts';
import type { Song, Track } from '../song/song.ts';
import { factsOf } from '../song/track-facts.ts';

/** The tracks that send on a channel on which this one is heard, itself among them, in the song's order. */
export const roomOf = (song: Song, track: Track, channel: number): Track[] =>
  heardOn(song, factsOf(track).ports, channel).filter((t) => (factsOf(t).channels >> channel) & 1);

/**
 * A channel on which nothing is sent that a track of these ports would hear, and none of those; undefined
 * where all are taken.
 */
export const freeChannel = (
  song: Song,
  track: Track,
  taken: ReadonlySet<number>,
): number | undefined =>
  Array.from({ length: 16 }, (_, c) => c).find(
    (c) => c !== percussionChannel && !taken.has(c) && roomOf(song, track, c).length === 0,
  );
