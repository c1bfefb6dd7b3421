import { z } from 'zod';
import { percussionChannel } from '../../../instruments/general-midi.ts';
import { laneKey, parseLaneKey, playedLanes } from '../../../song/lanes.ts';
import { channelsOf, type Track } from '../../../song/song.ts';
import { tracksIn } from '../../../song/scope.ts';
import { defineOperation } from '../../operation.ts';
import { onChannel } from '../../../edit/on-channel.ts';
import { rewriteTracks } from '../../../edit/rewrite.ts';
import { leftBehind } from './left-behind.ts';

export const tracksChannel = defineOperation({
  id: 'tracks.channel',
  version: 1,
  title: 'Set channels',
  summary:
    'Puts tracks on one channel, or each on a channel of its own; parts on the drum channel stay there. What other tracks set on the channel they leave is told.',
  group: 'tracks',
  scope: 'tracks',
  settings: z.strictObject({
    channel: z.int().min(1).max(16).nullable().default(null).meta({
      title: 'Channel',
      description: 'Empty: each track a channel of its own, 10 left to the drums.',
    }),
  }),
  apply(song, { channel }, scope) {
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    // Channels that tracks outside the scope use are taken last.
    const inside = new Set(inScope.value);
    const outside = new Set(
      song.tracks.filter((t) => !inside.has(t)).flatMap((t) => channelsOf(t.events)),
    );
    const free = Array.from({ length: 16 }, (_, c) => c).filter((c) => c !== percussionChannel);
    const turns = [...free.filter((c) => !outside.has(c)), ...free.filter((c) => outside.has(c))];
    let turn = 0;
    const behind = leftBehind(song);
    return rewriteTracks(song, scope, (events, _, track) => {
      const used = channelsOf(events);
      if (used.length === 0) return { left: 'It plays on no channel.' };
      if (channel === null && used.length === 1 && used[0] === percussionChannel)
        return { left: 'It plays the drums.' };
      const wanted = channel === null ? turns[turn++ % turns.length]! : channel - 1;
      if (used.length === 1 && used[0] === wanted)
        return { left: 'It plays on this channel already.' };
      const parked = parkedOn(track, wanted);
      if (!parked)
        return {
          left: 'A lane that is parked would fall on one of another channel that plays: unpark it, or split the track by channel first.',
        };
      const { events: moved, count } = onChannel(events, wanted);
      const left = behind(
        track,
        used.filter((c) => c !== wanted),
      );
      return {
        events: moved,
        parked,
        counts: { message: count },
        detail: `to channel ${wanted + 1}${left ? `; ${left}` : ''}`,
      };
    });
  },
  describe: ({ channel }, { changes }) =>
    channel === null
      ? `Gave ${changes.length === 1 ? changes[0]!.name : `${changes.length} tracks`} channels of their own`
      : `Put ${changes.length === 1 ? changes[0]!.name : `${changes.length} tracks`} on channel ${channel}`,
  examples: [
    { says: 'Each its own', settings: {} },
    { says: 'All on the drum channel', settings: { channel: 10 } },
  ],
});

/**
 * Keys of the track's parked lanes once all is on one channel; undefined where one of them would be a lane
 * that plays as well.
 */
function parkedOn(track: Track, channel: number): string[] | undefined {
  const moved = (keys: Iterable<string>): string[] => [
    ...new Set([...keys].map((key) => laneKey(channel, parseLaneKey(key).what))),
  ];
  const parked = moved(track.parked ?? []);
  const played = new Set(parked.length === 0 ? [] : moved(playedLanes(track)));
  return parked.some((key) => played.has(key)) ? undefined : parked.sort();
}
