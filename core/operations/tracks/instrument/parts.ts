import { percussionChannel } from '../../../instruments/general-midi.ts';
import { portOf } from '../../../song/ports.ts';
import { findTrack, trackLabel } from '../../../song/song.ts';
import { factsOf } from '../../../song/track-facts.ts';
import { channelsIn } from '../../../units/channel-bits.ts';
import { skip, type Given } from './given.ts';
import { freeChannel } from '../../../edit/room.ts';
import type { InstrumentSettings } from './settings.ts';

/** Parts of one port that share a channel, and so an instrument. */
export interface Group {
  readonly channel: number;
  /** Ids of their tracks, in the song's order. */
  readonly ids: readonly string[];
}

/**
 * The parts that are to play something else, by the channel that is meant. Tracks that say nothing yet get
 * a channel that is free.
 */
export function partsOf(
  given: Given,
  ids: readonly string[],
  { channel, drums }: Pick<InstrumentSettings, 'channel' | 'drums'>,
): { given: Given; groups: readonly Group[] } {
  const { song } = given;
  const groups = new Map<string, { channel: number; ids: string[] }>();
  const taken = new Set<number>();
  let now = given;
  for (const id of ids) {
    const track = findTrack(song, id)!;
    const name = trackLabel(song, track);
    const used = channelsIn(factsOf(track).channels);
    if (song.tracks[0] === track && song.tracks.length > 1 && used.length === 0) {
      now = skip(now, track, name, 'It holds the map, and plays nothing.');
      continue;
    }
    const meant =
      used.length === 0
        ? drums
          ? percussionChannel
          : freeChannel(song, track, taken)
        : used.length === 1
          ? used[0]
          : used.find((c) => c + 1 === channel);
    if (meant === undefined) {
      const why =
        used.length === 0
          ? noneFree
          : `It plays on channels ${used.map((c) => c + 1).join(', ')}: say which is meant, or split it by channel first.`;
      now = skip(now, track, name, why);
      continue;
    }
    if (used.length === 0) taken.add(meant);
    const key = `${portOf(track.events)} ${meant}`;
    const group = groups.get(key);
    if (group) group.ids.push(id);
    else groups.set(key, { channel: meant, ids: [id] });
  }
  return { given: now, groups: [...groups.values()] };
}

export const noneFree =
  'No channel is free for it: put other parts together first, or give it a port of its own.';
