import { foreignTo } from '../../../edit/foreign-controllers.ts';
import { onOtherChannels } from '../../../edit/other-channels.ts';
import { counted, without } from '../../../edit/rewrite.ts';
import { sameDefinition } from '../../../instruments/definition.ts';
import { percussionChannel } from '../../../instruments/general-midi.ts';
import { contradiction } from '../../../instruments/contradiction.ts';
import { limitsOfDefinition, limitsOfSound } from '../../../instruments/limits.ts';
import { soundName, type Sound } from '../../../instruments/sounds.ts';
import { laneKey, parseLaneKey, playedLanes } from '../../../song/lanes.ts';
import type { TickSpan } from '../../../song/scope.ts';
import {
  findTrack,
  trackLabel,
  trackName,
  withEvents,
  withInstrument,
  withParked,
  withReplaced,
  type Song,
  type Track,
} from '../../../song/song.ts';
import { factsOf } from '../../../song/track-facts.ts';
import { withTrackName } from '../../../song/track-name.ts';
import type { Change } from '../../operation.ts';
import { skip, type Given } from './given.ts';
import { handedOver } from './handed-over.ts';
import { intoRange } from './into-range.ts';
import { noneFree, type Group } from './parts.ts';
import { freeChannel, roomOf } from '../../../edit/room.ts';
import type { InstrumentSettings } from './settings.ts';
import { choosesSound, plays, soundAt, startOf, withSound } from './sound-of.ts';
import { writtenFor } from './written-for.ts';

interface Asked {
  readonly settings: InstrumentSettings;
  readonly span: TickSpan;
  /** Where instruments are set up anew, see `resetsIn`. */
  readonly resets: readonly number[];
  /** Ids of all tracks that the step is about. */
  readonly inside: ReadonlySet<string>;
}

/** Gives parts that share a channel their instrument. */
export function give(given: Given, { channel, ids }: Group, asked: Asked): Given {
  const { song } = given;
  const tracks = ids.map((id) => findTrack(song, id)!);
  const target = targetOf(song, tracks, channel, asked);
  if ('why' in target)
    return tracks.reduce((now, t) => skip(now, t, trackLabel(song, t), target.why), given);
  const { to, others, joined } = target;
  const behind =
    asked.span.to === Infinity
      ? undefined
      : (soundAt(roomOf(song, tracks[0]!, channel), channel, asked.span.to) ?? piano);
  const moved = to === channel ? given : movedTo(given, tracks, others, { channel, to });
  const all = asked.settings.shared === 'all on the channel';
  const said = ids.reduce(
    (now, id) => sayingIts(now, id, { ...asked, was: channel, to, behind, joined }),
    moved,
  );
  const along = all ? (joined ? roomOf(said.song, tracks[0]!, to) : others) : [];
  return along
    .filter((t) => !asked.inside.has(t.id))
    .reduce((now, t) => silenced(now, t.id, to, asked.span), said);
}

/** What General MIDI begins with. */
const piano: Sound = { program: 0, bank: null };

/** Where parts go, who else is on the channel that they leave, and whether others play where they come to. */
function targetOf(
  song: Song,
  tracks: readonly Track[],
  channel: number,
  { settings: { drums, shared }, span, inside }: Asked,
):
  | { readonly to: number; readonly others: readonly Track[]; readonly joined: boolean }
  | { readonly why: string } {
  const [first] = tracks;
  const outside = (c: number): Track[] => roomOf(song, first!, c).filter((t) => !inside.has(t.id));
  const others = outside(channel);
  const whole = span.from === 0 && span.to === Infinity;
  const alone = others.length === 0 || shared === 'all on the channel';
  if (drums) {
    if (channel !== percussionChannel && !whole) return { why: insideOnly };
    const twice = tracks.some(
      (t) => channel !== percussionChannel && (factsOf(t).channels >> percussionChannel) & 1,
    );
    if (twice) return { why: 'It plays drums, too: split it by channel first.' };
    const joined = outside(percussionChannel).length > 0;
    if (joined && channel === percussionChannel && shared !== 'all on the channel')
      return {
        why: 'Other parts play the drums on channel 10, with one kit for all of them: say that all on the channel are meant.',
      };
    return { to: percussionChannel, others, joined };
  }
  if (channel !== percussionChannel && alone) return { to: channel, others, joined: false };
  if (shared === 'left alone' && channel !== percussionChannel)
    return { why: `Others play on channel ${channel + 1}, too.` };
  if (!whole) return { why: insideOnly };
  const free = freeChannel(song, first!, new Set());
  return free === undefined ? { why: noneFree } : { to: free, others, joined: false };
}

const insideOnly =
  'Inside a part the instrument changes on a channel of its own: give the whole part one first (Give an instrument, without bars).';

/** The parts on another channel; what those that stay heard of them, and they of those, is said anew. */
function movedTo(
  given: Given,
  tracks: readonly Track[],
  others: readonly Track[],
  { channel, to }: { channel: number; to: number },
): Given {
  const { song } = given;
  const handed = handedOver(song, tracks, others, channel);
  const names = tracks.map((t) => trackLabel(song, t)).join(', ');
  const changes = others.flatMap((t): Change[] => {
    const now = handed.get(t.id);
    return now
      ? [
          {
            track: t.id,
            name: trackLabel(song, t),
            did: 'changed',
            counts: { message: now.events.count - t.events.count },
            detail: `says what ${names} said on channel ${channel + 1}, so that it sounds as before`,
          },
        ]
      : [];
  });
  const channels = new Map([[channel, to]]);
  const parts = new Map(
    tracks.map((t) => [t.id, onOtherChannels(handed.get(t.id) ?? t, channels)]),
  );
  return {
    ...given,
    song: withReplaced(song, new Map([...handed, ...parts])),
    changes: [...given.changes, ...changes],
  };
}

interface Saying extends Asked {
  readonly was: number;
  readonly to: number;
  readonly behind: Sound | undefined;
  /** It comes to a channel on which others play: it says nothing there that they would hear. */
  readonly joined: boolean;
}

/** One part with its sound said, and what was written for the one before parked if that is wished. */
function sayingIts(given: Given, id: string, how: Saying): Given {
  const { song } = given;
  const { settings, span, resets, was, to, behind } = how;
  const track = findTrack(song, id)!;
  const name = trackLabel(song, track);
  const sound = { program: settings.program - 1, bank: settings.bank };
  const whole = span.from === 0 && span.to === Infinity;
  const drums = to === percussionChannel;
  const { definition } = settings;
  const called = definition?.name ?? soundName(sound, drums);
  const nameless = settings.named && trackName(track, song.encoding) === '';
  const limits = definition ? limitsOfDefinition(definition) : limitsOfSound(sound.program, drums);
  const range = settings.octaves && whole && !drums ? limits.playable : undefined;
  const asBefore = was === to && whole && playsAlready(track, to, { sound, definition, range });
  if (asBefore && !settings.settle && !nameless)
    return skip(given, track, name, 'It plays that already.');
  const theirs = how.joined && settings.shared !== 'all on the channel';
  const arrived = how.joined && was !== to ? withoutModes(track.events, to) : track.events;
  const at = whole ? startOf(resets, track, to) : span.from;
  const { events: said, gone } = theirs
    ? { events: arrived, gone: 0 }
    : withSound(arrived, to, { at, span, sound, behind });
  const { events, octaves } = range ? intoRange(said, to, range) : { events: said, octaves: 0 };
  const parked = parkedNow(withEvents(track, events), to, how);
  const detail = [
    theirs ? 'plays the kit of those that are there' : `plays ${called}`,
    ...wayWords(how),
    gone > 0 ? `${counted(gone, 'program or bank message')} taken out` : '',
    nameless ? 'named so' : '',
    octavesWords(octaves),
    ...writtenFor(events, to, {
      was,
      limits,
      span,
      contradicted: definition
        ? undefined
        : contradiction(trackName(track, song.encoding), sound.program, drums)?.fragment,
    }),
  ].filter((words) => words !== '');
  const change: Change = {
    track: id,
    name,
    did: 'changed',
    counts: { program: theirs ? 0 : 1 },
    detail: detail.join('; '),
  };
  const now = withParked(
    withInstrument(withEvents(track, events), whole ? definition : track.instrument),
    parked,
  );
  const named = nameless ? withTrackName(now, called, song.encoding) : now;
  const added = given.changes.find((c) => c.track === id && c.did === 'added');
  return {
    ...given,
    song: withReplaced(song, new Map([[id, named]])),
    changes: added
      ? given.changes.map((c) => (c === added ? { ...c, detail: change.detail! } : c))
      : [...given.changes, change],
  };
}

/** Whether a part plays a sound of a definition, where its notes are to lie. */
const playsAlready = (
  track: Track,
  channel: number,
  {
    sound,
    definition,
    range,
  }: {
    readonly sound: Sound;
    readonly definition: InstrumentSettings['definition'];
    readonly range: Parameters<typeof intoRange>[2] | undefined;
  },
): boolean =>
  sameDefinition(track.instrument, definition) &&
  plays(track.events, channel, sound) &&
  !(range && intoRange(track.events, channel, range).octaves !== 0);

/** Where a part went, and what that took. */
const wayWords = ({ joined, was, to }: Saying): string[] =>
  was === to
    ? []
    : [
        joined ? 'what it said beside its notes is parked, since they would hear it' : '',
        `on channel ${to + 1}, was ${was + 1}`,
      ];

const octavesWords = (octaves: number): string =>
  octaves === 0
    ? ''
    : `${Math.abs(octaves) === 1 ? 'an octave' : `${Math.abs(octaves)} octaves`} ${octaves > 0 ? 'up' : 'down'}, into its range`;

/**
 * Keys of the lanes of a part that are parked from now on: no longer those that say its sound; of others
 * what is wished.
 */
function parkedNow(track: Track, channel: number, { settings, joined, was }: Saying): string[] {
  const all = settings.shared === 'all on the channel';
  const quiet = joined && was !== channel;
  const sounds = new Set(['program', 0, 32].map((what) => laneKey(channel, what as number)));
  const had = (track.parked ?? []).filter((key) => (quiet && !all) || !sounds.has(key));
  const foreign = settings.settle ? (foreignTo(track.events)?.controllers ?? []) : [];
  const lanes = [...playedLanes(withParked(track, had))];
  const mine = quiet
    ? lanes.filter((key) => parseLaneKey(key).channel === channel && !(all && sounds.has(key)))
    : [];
  const asked = lanes.filter((key) => foreign.includes(parseLaneKey(key).what as number));
  return [...new Set([...had, ...mine, ...asked])].sort();
}

/** Without the channel mode messages of a channel, which others there would hear, and which cannot be parked. */
const withoutModes = (events: Track['events'], channel: number): Track['events'] =>
  without(events, (i) => events.status[i] === (0xb0 | channel) && events.data1[i]! >= 120) ??
  events;

/** Another part of the channel without the programs that it says there, so that it plays with the others. */
function silenced(given: Given, id: string, channel: number, { from, to }: TickSpan): Given {
  const track = findTrack(given.song, id)!;
  const { events } = track;
  const left = without(
    events,
    (i) => events.atTick[i]! >= from && events.atTick[i]! < to && choosesSound(events, i, channel),
  );
  const change: Change = {
    track: id,
    name: trackLabel(given.song, track),
    did: 'changed',
    counts: { program: left ? events.count - left.count : 0 },
    detail: `plays it, too, on channel ${channel + 1}`,
  };
  if (!left) return given;
  return {
    ...given,
    song: withReplaced(given.song, new Map([[id, withEvents(track, left)]])),
    changes: [...given.changes, change],
  };
}
