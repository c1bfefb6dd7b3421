import { percussionChannel } from '../../instruments/general-midi.ts';
import { channelsOf } from '../../song/song.ts';
import { on, type Noticed } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

const firstProgram = ({ track: { events } }: LookedTrack): number => {
  const at = events.status.findIndex((s) => s >> 4 === 0xc);
  return at === -1 ? -1 : events.data1[at]!;
};

/** Parts that share a channel though their programs differ, or all parts on one channel without any program. */
export function sharedChannel({ parts }: LookedSong): Noticed[] {
  const byChannel = new Map<number, LookedTrack[]>();
  for (const part of parts) {
    const [channel, ...more] = channelsOf(part.track.events);
    if (channel === undefined || more.length > 0 || channel === percussionChannel) continue;
    const group = byChannel.get(channel);
    if (group) group.push(part);
    else byChannel.set(channel, [part]);
  }
  return [...byChannel].flatMap(([channel, group]): Noticed[] => {
    // A part without a program takes the one that is set, and says nothing against it.
    const programs = new Set(group.map(firstProgram).filter((p) => p !== -1));
    const allThere = group.length === parts.length && group.length > 2;
    if (group.length < 2 || (programs.size < 2 && !allThere)) return [];
    const tracks = group.map((t) => t.id);
    return [
      {
        title: `${group.length} parts share channel ${channel + 1}${programs.size > 1 ? ' with different programs' : ''}`,
        why: 'One channel has one instrument: where the channels are obeyed, they all play on the one that was set last.',
        tracks, count: group.length, sure: 'likely',
        settle: [{ title: 'Give each its own', operation: 'tracks.channel', settings: {}, scope: on(...tracks) }],
      },
    ];
  });
}
