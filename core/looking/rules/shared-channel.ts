import { percussionChannel } from '../../instruments/general-midi.ts';
import { channelsOf } from '../../song/song.ts';
import { listed, on, type Noticed } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

/** The program a channel of the part begins with; -1 where it has none. */
function firstProgram({ track: { events } }: LookedTrack, channel: number): number {
  const at = events.status.indexOf(0xc0 | channel);
  return at === -1 ? -1 : events.data1[at]!;
}

/** Channels on which the part has notes, in ascending order. */
function played({ track: { events }, notes }: LookedTrack): number[] {
  let used = 0;
  for (let n = 0; n < notes.count; n++) used |= 1 << (events.status[notes.on[n]!]! & 15);
  return Array.from({ length: 16 }, (_, channel) => channel).filter((channel) => used & (1 << channel));
}

/** Parts that share a channel though their programs differ, or all parts on one channel without any program. */
export function sharedChannel({ parts }: LookedSong): Noticed[] {
  const byChannel = new Map<number, LookedTrack[]>();
  for (const part of parts) {
    for (const channel of played(part)) {
      if (channel === percussionChannel) continue;
      const group = byChannel.get(channel);
      if (group) group.push(part);
      else byChannel.set(channel, [part]);
    }
  }
  return [...byChannel].flatMap(([channel, group]): Noticed[] => {
    // A part without a program takes the one that is set, and says nothing against it.
    const programs = new Set(group.map((t) => firstProgram(t, channel)).filter((p) => p !== -1));
    const allThere = group.length === parts.length && group.length > 2;
    const mixed = group.filter((t) => channelsOf(t.track.events).length > 1);
    if (group.length < 2 || (programs.size < 2 && (!allThere || mixed.length > 0))) return [];
    const tracks = group.map((t) => t.id);
    return [
      {
        title: `${group.length} parts share channel ${channel + 1}${programs.size > 1 ? ' with different programs' : ''}`,
        why: 'One channel has one instrument: where the channels are obeyed, they all play on the one that was set last.' + (mixed.length > 0 ? ` First split ${listed(mixed.map((t) => t.label))}, which ${mixed.length === 1 ? 'plays' : 'play'} on several.` : ''),
        tracks, count: group.length, sure: 'likely',
        settle: mixed.length > 0 ? [] : [{ title: 'Give each its own', operation: 'tracks.channel', settings: {}, scope: on(...tracks) }],
      },
    ];
  });
}
