import type { Track } from '../../song/song.ts';
import { isChosen, type PartCase } from './part-case.ts';
import { channelsOfTrack, outlineTrack } from './reading/track-outline.ts';

/** The tracks of a song that are heard on the channels of what leaves of it. */
export interface HeardTracks {
  readonly tracks: readonly Track[];
  readonly chosen: ReadonlySet<string>;
  hears(place: number, port: number): boolean;
  portOf(track: Track): number;
}

export function findHeardTracks(of: PartCase): HeardTracks {
  const { song } = of;
  const chosen = song.tracks.filter((t) => isChosen(of, t));
  const bits = new Map<number, number>();
  const ports = new Map<string, number>();
  for (const { id, events } of chosen) {
    const { port, channels } = outlineTrack(events);
    ports.set(id, port);
    bits.set(port, (bits.get(port) ?? 0) | channels);
  }
  const all = of.part.tracks === undefined;
  return {
    tracks: song.tracks.filter(({ id, events }) => {
      const { port, channels, hasExclusive } = outlineTrack(events);
      return ports.has(id) || hasExclusive || ((bits.get(port) ?? 0) & channels) !== 0;
    }),
    chosen: new Set(chosen.map((t) => t.id)),
    // System exclusive messages go along where anything of their port does.
    hears: (place, port) =>
      place < 0
        ? all || (bits.get(port) ?? 0) !== 0
        : ((bits.get(place >> 4) ?? 0) & (1 << (place & 15))) !== 0,
    portOf: ({ id, events }) => ports.get(id) ?? outlineTrack(events).port,
  };
}

/** Channels that several tracks send on, counted over all ports. */
export function sharedChannels(tracks: readonly Track[]): Set<number> {
  const [seen, again] = [new Set<number>(), new Set<number>()];
  for (const { events } of tracks)
    for (const channel of channelsOfTrack(events)) {
      const place = outlineTrack(events).port * 16 + channel;
      (seen.has(place) ? again : seen).add(place);
    }
  return again;
}
