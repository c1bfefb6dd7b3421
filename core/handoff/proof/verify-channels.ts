import type { Difference } from './compare-ticks.ts';
import type { PartCase } from './part-case.ts';
import { channelsOfTrack } from './reading/track-outline.ts';

/** The tenth, which a General MIDI device plays drums on. */
const drums = 9;

/** Tracks are on the channels that were asked for: those of a list, or each on one of its own. */
export function verifyChannels({ song, leaving, wanted }: PartCase): Difference[] {
  const { channels } = wanted.take;
  if (channels === 'as they are') return [];
  const wrong = (owner: string, channel: number): Difference => ({
    state: 'has',
    owner,
    what: `events on channel ${channel + 1}`,
    tick: 0,
  });
  if (channels !== 'one each') {
    const asked = new Map(channels.map(({ track, channel }) => [track, channel - 1]));
    return leaving.tracks.flatMap(({ id, events }) =>
      channelsOfTrack(events)
        .filter((channel) => asked.has(id) && asked.get(id) !== channel)
        .map((channel) => wrong(id, channel)),
    );
  }
  const mayBeDrums = new Set(
    song.tracks.filter((t) => channelsOfTrack(t.events).includes(drums)).map((t) => t.id),
  );
  const playing = leaving.tracks.filter(
    ({ id, events }) => channelsOfTrack(events).length > 0 && !mayBeDrums.has(id),
  );
  const taken = new Set<number>();
  return playing.flatMap(({ id, events }) => {
    const [channel, ...more] = channelsOfTrack(events);
    // What plays on several channels keeps them, and the slip says so.
    if (channel === undefined || more.length > 0) return [];
    const plays = events.status.some((s) => s >> 4 === 9);
    const isWrong = (channel === drums && plays) || (taken.has(channel) && playing.length <= 15);
    taken.add(channel);
    return isWrong ? [wrong(id, channel)] : [];
  });
}
