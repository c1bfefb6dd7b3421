import { channelsIn } from '../../units/channel-bits.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { ChannelUse } from '../track-look.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

/** Channel mode messages begin here (MIDI 1.0). */
const firstMode = 120;

export function channelUse({ notes, track: { events } }: LookedTrack): ChannelUse {
  let [all, played, setUp] = [0, 0, 0];
  const programs: Record<number, number> = {};
  for (let n = 0; n < notes.count; n++) played |= 1 << (events.status[notes.on[n]!]! & 15);
  for (let i = 0; i < events.count; i++) {
    const [kind, channel] = [events.status[i]! >> 4, events.status[i]! & 15];
    if (kind === 0xf) continue;
    all |= 1 << channel;
    if (kind >= 0xa && (kind !== 0xb || events.data1[i]! < firstMode)) setUp |= 1 << channel;
    if (kind === 0xc) programs[channel] ??= events.data1[i]!;
  }
  return { all, played, setUp, programs };
}

const setUp = ['programs', 'banks', 'controllers', 'bend', 'pressure'];

/** Parts whose notes are on several channels; and those that set up a channel on which they have none. */
export function severalChannels({ parts }: LookedSong): Noticed[] {
  const played = new Set(channelsIn(parts.reduce((bits, t) => bits | t.look.channels.played, 0)));
  // The same for every part, so that one step serves them all.
  const silent = Array.from({ length: 16 }, (_, c) => c + 1).filter((c) => !played.has(c - 1));
  return parts.flatMap((t): Noticed[] => {
    const own = new Set(channelsIn(t.look.channels.played));
    if (own.size > 1) {
      return [
        {
          title: `${t.label} plays on ${own.size} channels`,
          why: 'Most programs give a track one instrument: the parts on its other channels would play on the wrong one.',
          tracks: [t.id],
          count: own.size,
          sure: 'certain',
          settle: [
            {
              title: 'Give each channel its track',
              operation: 'tracks.split-by-channel',
              settings: { names: true },
              scope: onTracks(t.id),
            },
          ],
        },
      ];
    }
    const others = channelsIn(t.look.channels.setUp).filter((c) => !own.has(c));
    if (others.length === 0) return [];
    const [left, needed] = [
      others.filter((c) => !played.has(c)),
      others.filter((c) => played.has(c)),
    ];
    const numbers = (channels: readonly number[]): string => channels.map((c) => c + 1).join(', ');
    return [
      {
        title: `${t.label} also sets up channel ${numbers(others)}, where it plays nothing`,
        why:
          needed.length > 0
            ? `Another part plays on channel ${numbers(needed)}: it sounds as this one says, and loses that where the two are parted.`
            : 'Nobody plays there. A program that gives a track one channel takes these settings for the part’s own.',
        tracks: [t.id],
        count: others.length,
        sure: 'certain',
        settle:
          left.length === 0
            ? []
            : [
                {
                  title: 'Take out what is for channels without notes',
                  operation: 'events.remove',
                  settings: { kinds: setUp, channels: silent },
                  scope: onTracks(t.id),
                },
              ],
      },
    ];
  });
}
