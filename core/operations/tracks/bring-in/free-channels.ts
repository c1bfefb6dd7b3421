import { percussionChannel } from '../../../instruments/general-midi.ts';
import type { OtherChannels } from '../../../edit/other-channels.ts';
import type { Track } from '../../../song/song.ts';
import { allChannels, channelsIn } from '../../../units/channel-bits.ts';
import { factsOf } from '../../../song/track-facts.ts';

/** Drums stay where they are. */
const movable = allChannels & ~(1 << percussionChannel);

/** Channels a track plays on, a bit each, by its port. */
const used = (tracks: readonly Track[]): Map<number, number> => {
  const byPort = new Map<number, number>();
  for (const track of tracks) {
    const { ports, channels } = factsOf(track);
    byPort.set(ports[0] ?? 0, (byPort.get(ports[0] ?? 0) ?? 0) | channels);
  }
  return byPort;
};

/**
 * For each port the channels of parts that tracks of the song play on already, with free ones in their
 * place: parts that share a channel go on sharing one. `crowded` are those for which no channel is left,
 * from 1.
 */
export function freeChannels(
  song: readonly Track[],
  parts: readonly Track[],
): { byPort: ReadonlyMap<number, OtherChannels>; crowded: number[] } {
  const taken = used(song);
  const byPort = new Map<number, OtherChannels>();
  const crowded: number[] = [];
  for (const [port, wanted] of used(parts)) {
    const busy = taken.get(port) ?? 0;
    const free = channelsIn(movable & ~(busy | wanted));
    const clashing = channelsIn(movable & busy & wanted);
    byPort.set(port, new Map(clashing.slice(0, free.length).map((c, n) => [c, free[n]!])));
    crowded.push(...clashing.slice(free.length).map((c) => c + 1));
  }
  return { byPort, crowded };
}
