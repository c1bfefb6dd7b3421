import type { Song, Track } from '../../song/song.ts';
import type { Part } from '../part/piece.ts';
import type { Wanted } from '../settings.ts';
import type { Places } from './places.ts';
import { leadsWithMap } from './reading/song-map.ts';

/** What is verified: a part as it leaves, against the song that it is of, under the settings. */
export interface PartCase {
  readonly song: Song;
  readonly part: Part;
  readonly wanted: Wanted;
  readonly leaving: Song;
  readonly places: Places;
}

/** Whether a track is one of those that leave: the map does with all. */
export const isChosen = ({ song, part }: Pick<PartCase, 'song' | 'part'>, track: Track): boolean =>
  part.tracks === undefined ||
  part.tracks.has(track.id) ||
  (leadsWithMap(song) && track === song.tracks[0]);
