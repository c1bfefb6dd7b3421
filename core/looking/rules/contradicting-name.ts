import { contradiction } from '../../instruments/contradiction.ts';
import type { Named } from '../../instruments/names.ts';
import { percussionChannel } from '../../instruments/general-midi.ts';
import { limitsOfSound } from '../../instruments/limits.ts';
import { soundName } from '../../instruments/sounds.ts';
import { channelsIn } from '../../units/channel-bits.ts';
import { onTracks, type Noticed, type Settling } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';
import { sharesChannel } from './shared-channel.ts';

/**
 * Parts that are called one thing and play another. Names and what plays are known of each part; only of
 * those that differ are the events looked at.
 */
export function contradictingName(song: LookedSong): Noticed[] {
  return song.parts.flatMap((t): Noticed[] => {
    const differs = difference(t);
    if (!differs || severalSounds(t)) return [];
    const { named, called } = differs;
    return [
      {
        title: `${t.label} plays ${called.toLowerCase()}`,
        why: 'Its name says something else: one of the two is left over, and whoever gets the file goes by the wrong one.',
        tracks: [t.id],
        count: t.look.notes,
        sure: 'possible',
        settle: [...(sharesChannel(song, t) ? [] : giving(t, named)), renaming(t, called)],
      },
    ];
  });
}

/** What a part is called and what plays it, where the two are no neighbours. */
function difference({
  name,
  track,
  look,
}: LookedTrack): { named: Named; called: string } | undefined {
  const [channel, ...others] = channelsIn(look.channels.played);
  const program = channel === undefined ? undefined : look.channels.programs[channel];
  if (channel === undefined || others.length > 0 || program === undefined || track.instrument)
    return undefined;
  const drums = channel === percussionChannel;
  const named = contradiction(name, program, drums);
  if (!named) return undefined;
  return { named, called: soundName({ program, bank: null }, drums) };
}

/** Programs and channels of several kinds: no name is true of all of them. */
function severalSounds({ track: { events } }: LookedTrack): boolean {
  const said = new Set<number>();
  for (let i = 0; i < events.count; i++)
    if (events.status[i]! >> 4 === 0xc) said.add(events.status[i]! * 128 + events.data1[i]!);
  return said.size > 1;
}

/** What its name says, where its notes suit that. */
function giving(t: LookedTrack, { drums, program }: Named): Settling[] {
  const { playable, voices } = limitsOfSound(program, drums);
  const { data1 } = t.track.events;
  const suits =
    !drums &&
    voices === undefined &&
    [...t.notes.on].every(
      (row) => !playable || (data1[row]! >= playable[0] && data1[row]! <= playable[1]),
    );
  return suits
    ? [
        {
          title: `Give it ${soundName({ program, bank: null }, false)}`,
          operation: 'tracks.instrument',
          settings: { program: program + 1 },
          scope: onTracks(t.id),
        },
      ]
    : [];
}

const renaming = (t: LookedTrack, name: string): Settling => ({
  title: `Call it ${name}`,
  operation: 'tracks.rename',
  settings: { name },
  scope: onTracks(t.id),
});
