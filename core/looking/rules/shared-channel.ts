import { percussionChannel } from '../../instruments/general-midi.ts';
import { factsOf } from '../../song/track-facts.ts';
import { listed, onTracks, type Noticed } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';
import { channelsIn } from '../../units/channel-bits.ts';

/** The port of a track: each has sixteen channels of its own, since each is a device. */
const portOf = ({ track }: LookedTrack): number => factsOf(track).ports[0] ?? 0;

/** Whether another track sends anything on a channel of a part. */
export const sharesChannel = ({ tracks }: LookedSong, t: LookedTrack): boolean =>
  tracks.some(
    (other) =>
      other !== t &&
      (other.look.channels.all & t.look.channels.all) !== 0 &&
      portOf(other) === portOf(t),
  );

/**
 * Parts that share a channel of a port though their programs differ, or all parts on one channel without any
 * program.
 */
export function sharedChannel({ parts }: LookedSong): Noticed[] {
  const byChannel = new Map<number, LookedTrack[]>();
  for (const part of parts) {
    for (const channel of channelsIn(part.look.channels.played)) {
      if (channel === percussionChannel) continue;
      const place = portOf(part) * 16 + channel;
      const group = byChannel.get(place);
      if (group) group.push(part);
      else byChannel.set(place, [part]);
    }
  }
  return [...byChannel].flatMap(([place, group]): Noticed[] => {
    const channel = place % 16;
    // A part without a program takes the one that is set, and says nothing against it.
    const programs = new Set(
      group.map((t) => t.look.channels.programs[channel]).filter((p) => p !== undefined),
    );
    const allThere = group.length === parts.length && group.length > 2;
    const mixed = group.filter((t) => channelsIn(t.look.channels.all).length > 1);
    if (group.length < 2 || (programs.size < 2 && (!allThere || mixed.length > 0))) return [];
    const tracks = group.map((t) => t.id);
    return [
      {
        title: `${group.length} parts share channel ${channel + 1}${programs.size > 1 ? ' with different programs' : ''}`,
        why: `One channel has one instrument: where the channels are obeyed, they all play on the one that was set last.${splitFirst(mixed)}`,
        tracks,
        count: group.length,
        sure: 'likely',
        settle:
          mixed.length > 0
            ? []
            : [
                {
                  title: 'Give each its own',
                  operation: 'tracks.channel',
                  settings: {},
                  scope: onTracks(...tracks),
                },
              ],
      },
    ];
  });
}

/** Parts of several channels are not given one of their own: they are split first. */
function splitFirst(mixed: readonly LookedTrack[]): string {
  if (mixed.length === 0) return '';
  return ` First split ${listed(mixed.map((t) => t.label))}, which ${mixed.length === 1 ? 'plays' : 'play'} on several.`;
}
