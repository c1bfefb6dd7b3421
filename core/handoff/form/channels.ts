import { onChannel } from '../../edit/on-channel.ts';
import { percussionChannel } from '../../instruments/general-midi.ts';
import { pickEvents } from '../../smf/event-builder.ts';
import { setsUpAnew } from '../../edit/excerpt/in-force.ts';
import { payloadOf, SYSEX, type Events } from '../../smf/events.ts';
import { mergeEvents } from '../../smf/merge.ts';
import { channelsOf, trackLabel, withEvents, type Song, type Track } from '../../song/song.ts';
import { factsOf } from '../../song/track-facts.ts';
import { channelNumber } from '../../units/units.ts';
import { outlineOf } from '../outline.ts';
import type { Leaving } from '../take-settings.ts';

/** Channels for parts: all but the tenth. */
const forParts = Array.from({ length: 16 }, (_, c) => c).filter((c) => c !== percussionChannel);

/**
 * Tracks on other channels. What other tracks said on the channel that a track leaves is said on its own
 * from then on, where it was said, so that it sounds as it did.
 */
export function channelsFormed(
  song: Song,
  channels: Leaving['channels'],
): { song: Song; notes: string[] } {
  if (channels === 'as they are') return { song, notes: [] };
  const wanted = channels === 'one each' ? oneEach(song) : listed(channels);
  const notes: string[] = [];
  const goals = song.tracks.map((track): number | undefined => {
    const to = wanted.get(track.id);
    const used = channelsOf(track.events);
    if (to === undefined || used.length < 2) return used.length === 0 ? undefined : to;
    const on = `${trackLabel(song, track)} plays on channels ${used.map(channelNumber).join(', ')}`;
    const keeps = channels === 'one each';
    notes.push(
      keeps
        ? `${on} and keeps them: split it by channel first.`
        : `${on}: all of it leaves on channel ${to + 1}.`,
    );
    return keeps ? undefined : to;
  });
  const resets = resetsIn(song);
  const tracks = song.tracks.map((track, place) => {
    const events = withSpoken(song, place, goals, resets);
    const to = goals[place];
    const moved = to === undefined ? events : onChannel(events, to).events;
    return moved === track.events ? track : withEvents(track, moved);
  });
  const after = { ...song, tracks };
  return { song: after, notes: [...notes, ...sharedWords(after, channels)] };
}

function oneEach(song: Song): Map<string, number> {
  const playing = song.tracks.filter((t) => factsOf(t).channels !== 0 && !isDrums(t));
  return new Map(playing.map((t, n) => [t.id, forParts[n % forParts.length]!]));
}

const isDrums = (track: Track): boolean => factsOf(track).channels === 1 << percussionChannel;

const listed = (list: Exclude<Leaving['channels'], string>): Map<string, number> =>
  new Map(list.map(({ track, channel }) => [track, channel - 1]));

/**
 * A track with what others of its port say on its channels beside their notes, in the order in which it is
 * heard: those that will not be there any more. What is reset on the very tick, before the track is heard, is not
 * said: there it would stand behind the reset.
 */
function withSpoken(
  song: Song,
  place: number,
  goals: readonly (number | undefined)[],
  resets: ReadonlyMap<number, readonly Reset[]>,
): Events {
  const track = song.tracks[place]!;
  const { channels } = factsOf(track);
  const port = outlineOf(track.events).port;
  const spoken = song.tracks.map((other, n) =>
    n === place || goals[n] === goals[place] || outlineOf(other.events).port !== port
      ? undefined
      : spokenOn(other.events, factsOf(other).channels & channels, (row) =>
          (resets.get(other.events.atTick[row]!) ?? []).some(
            (r) =>
              r.port === port && r.place < place && (r.place === n ? r.row > row : r.place > n),
          ),
        ),
  );
  const some = (part: (Events | undefined)[]): Events[] => part.filter((e) => e !== undefined);
  return mergeEvents([
    ...some(spoken.slice(0, place)),
    track.events,
    ...some(spoken.slice(place + 1)),
  ]);
}

interface Reset {
  readonly place: number;
  readonly row: number;
  readonly port: number;
}

/** Messages that set up all channels of a port anew, by tick. */
function resetsIn({ tracks }: Song): ReadonlyMap<number, readonly Reset[]> {
  const found = new Map<number, Reset[]>();
  for (const [place, { events }] of tracks.entries()) {
    const { exclusive, port } = outlineOf(events);
    if (!exclusive) continue;
    for (let row = 0; row < events.count; row++) {
      if (events.status[row] !== SYSEX || !setsUpAnew(payloadOf(events, row))) continue;
      const tick = events.atTick[row]!;
      const there = found.get(tick);
      if (there) there.push({ place, row, port });
      else found.set(tick, [{ place, row, port }]);
    }
  }
  return found;
}

function spokenOn(
  events: Events,
  channels: number,
  isUndone: (row: number) => boolean,
): Events | undefined {
  if (channels === 0) return undefined;
  const rows: number[] = [];
  for (let i = 0; i < events.count - 1; i++) {
    const s = events.status[i]!;
    if (s >= 0xb0 && s < 0xf0 && (channels & (1 << (s & 15))) !== 0 && !isUndone(i)) rows.push(i);
  }
  if (rows.length === 0) return undefined;
  const picked = pickEvents(events, [...rows, events.count - 1]);
  picked.atTick[picked.count - 1] = picked.atTick[picked.count - 2]!;
  return picked;
}

/** Parts that had to share a channel: each program of one is heard on the other. */
function sharedWords({ tracks, encoding, ...song }: Song, channels: Leaving['channels']): string[] {
  const on = new Map<number, Track[]>();
  for (const track of tracks)
    for (const c of channelsOf(track.events)) {
      const place = (outlineOf(track.events).port << 4) | c;
      on.set(place, [...(on.get(place) ?? []), track]);
    }
  const shared = [...on].filter(
    ([place, those]) => those.length > 1 && (place & 15) !== percussionChannel,
  );
  if (shared.length === 0) return [];
  const whole = { ...song, tracks, encoding };
  const words = shared
    .slice(0, 8)
    .map(
      ([place, those]) =>
        `${those.map((t) => trackLabel(whole, t)).join(' and ')} on ${channelNumber(place & 15)}`,
    );
  const why =
    channels === 'one each' ? 'There are more parts than channels' : 'Parts share channels';
  const more = shared.length > words.length ? ` and ${shared.length - words.length} more` : '';
  const heard = 'so that each program of one is heard on the other';
  return [`${why}, ${heard}: ${words.join('; ')}${more}.`];
}
