import { channelsOf, type Track } from '../../song/song.ts';
import { factsOf } from '../../song/track-facts.ts';
import { outlineOf } from '../outline.ts';
import { isChosen, type Judging } from './judging.ts';

/** The tracks of a song that are heard on the channels of what leaves of it. */
export interface Lines {
  readonly tracks: readonly Track[];
  readonly chosen: ReadonlySet<string>;
  hears(place: number, port: number): boolean;
  portOf(track: Track): number;
}

export function linesOf(judging: Judging): Lines {
  const { song } = judging;
  const chosen = song.tracks.filter((t) => isChosen(judging, t));
  const bits = new Map<number, number>();
  const ports = new Map<string, number>();
  for (const t of chosen) {
    const port = outlineOf(t.events).port;
    ports.set(t.id, port);
    bits.set(port, (bits.get(port) ?? 0) | factsOf(t).channels);
  }
  const all = judging.part.tracks === undefined;
  return {
    tracks: song.tracks.filter(
      (t) =>
        ports.has(t.id) ||
        outlineOf(t.events).exclusive ||
        ((bits.get(outlineOf(t.events).port) ?? 0) & factsOf(t).channels) !== 0,
    ),
    chosen: new Set(chosen.map((t) => t.id)),
    // System exclusive messages go along where anything of their port does.
    hears: (place, port) =>
      place < 0
        ? all || (bits.get(port) ?? 0) !== 0
        : ((bits.get(place >> 4) ?? 0) & (1 << (place & 15))) !== 0,
    portOf: (t) => ports.get(t.id) ?? outlineOf(t.events).port,
  };
}

/** Channels of several tracks, counted over all ports. */
export function sharedPlaces(tracks: readonly Track[]): Set<number> {
  const [seen, again] = [new Set<number>(), new Set<number>()];
  for (const track of tracks)
    for (const channel of channelsOf(track.events)) {
      const place = outlineOf(track.events).port * 16 + channel;
      (seen.has(place) ? again : seen).add(place);
    }
  return again;
}
