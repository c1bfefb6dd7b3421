import { hasMapTrack, type Song, type Track } from '../../song/song.ts';
import type { Part } from '../part/piece.ts';
import type { Wanted } from '../settings.ts';
import type { Places } from './places.ts';

/** What is judged: a part as it leaves, against the song that it is of, under the settings. */
export interface Judging {
  readonly song: Song;
  readonly part: Part;
  readonly wanted: Wanted;
  readonly leaving: Song;
  readonly places: Places;
}

/** Whether a track is one of those that leave: the map does with all. */
export const isChosen = ({ song, part }: Pick<Judging, 'song' | 'part'>, track: Track): boolean =>
  part.tracks === undefined ||
  part.tracks.has(track.id) ||
  (hasMapTrack(song) && track === song.tracks[0]);

/** The tick that a difference ends with. */
export const tickIn = (difference: string): number => Number(/[\d.]+$/.exec(difference)![0]);
