import { namesIn, type Named } from '../../instruments/names.ts';
import { percussionChannel } from '../../instruments/general-midi.ts';
import { kindOf, type SoundKind } from '../../instruments/kinds.ts';
import { limitsOfSound } from '../../instruments/limits.ts';
import { soundName } from '../../instruments/sounds.ts';
import { channelsIn } from '../../units/channel-bits.ts';
import { onTracks, type Noticed, type Settling } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';
import { sharesChannel } from './shared-channel.ts';

/** Words that say how or what a part plays rather than on what: they are true of many instruments. */
const vague: ReadonlySet<string> = new Set(
  'grand keys keyboard chord akkorde tasten clean dist overdr beat ride crash clap tom kit lead synth saw squ pad arp fx sweep upright nylon trem voice vocal vox voc sing stimme voix voz voce zang sopran tenor ooh aah str record cor corda coro bell chime bas blas orch orchestra clar harmonica basso bass voice'.split(
    ' ',
  ),
);

/** Short forms may mean anything. */
const leastLetters = 4;

/** Sounds that stand for any other: what they are called is what they imitate. */
const anything: ReadonlySet<SoundKind> = new Set(['synthesiser', 'effect', 'other']);

/** Parts that are called one thing and play another. Names and what plays are known of each part; only of those that differ are the events looked at. */
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
  const plays = kindOf(program, drums);
  const names = namesIn(name);
  const named = names.find((n) => n.fragment.length >= leastLetters && !vague.has(n.fragment));
  if (!named || anything.has(plays)) return undefined;
  if (names.some((n) => goesWith(kindOf(n.program, n.drums), plays))) return undefined;
  return { named, called: soundName({ program, bank: null }, drums) };
}

/** Whether a name of one kind may well stand for another. */
const goesWith = (named: SoundKind, plays: SoundKind): boolean =>
  named === plays ||
  anything.has(named) ||
  near.some((kinds) => kinds.includes(named) && kinds.includes(plays));

/** Kinds that stand in for each other: a double bass is bowed and a bass, bells are struck and a kit's, keyboards play all that is plucked or struck. */
const near: readonly (readonly SoundKind[])[] = [
  ['bass', 'bowed'],
  ['drums', 'struck'],
  ['keys', 'organ', 'struck'],
  ['keys', 'plucked', 'struck'],
  ['reed', 'pipe'],
  ['bowed', 'voice'],
  ['organ', 'voice'],
  ['organ', 'reed'],
];

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
