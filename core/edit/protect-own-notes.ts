import { packEvents, pickEvents } from '../smf/event-builder.ts';
import {
  channelEvent,
  endTick,
  meta,
  metaEvent,
  payloadOf,
  SYSEX,
  type Events,
} from '../smf/events.ts';
import { mergeEvents } from '../smf/merge.ts';
import { parkedRows } from '../song/lanes.ts';
import { withEvents, type Song, type Track } from '../song/song.ts';
import { factsOf } from '../song/track-facts.ts';
import { channelsIn } from '../units/channel-bits.ts';
import { percussionChannel } from '../instruments/general-midi.ts';
import { ChannelValues } from './arrange/channel-values.ts';
import { kindOf } from './event-kinds.ts';
import { setsUpAnew } from './excerpt/in-force.ts';
import { heardOn, soundingOn } from './heard.ts';
import { counted } from './rewrite.ts';

/** A part that comes to a song, with what of it stayed out or was added, in words. */
export interface ProtectedPart {
  readonly part: Track;
  readonly said: readonly string[];
}

/** Where a part is laid onto a track that is there, instead of becoming one. */
export interface LaidOn {
  readonly there: Track;
  /** The song without what the part takes the place of. */
  readonly standing: Song;
  /** The last tick of what it takes the place of; 0 where it takes none. */
  readonly until: number;
}

/**
 * Parts that come to a song, their ticks and channels those of the song, so that the song's own notes sound
 * as before. On a channel where own notes sound among what the parts say they take what the song has set
 * there: their programs, controllers, bends and pressure stay out. Where own notes begin only behind them,
 * the channel is set back to what it was. An own note on the very tick counts as among them, since which of
 * two tracks speaks first is not for sure. Messages that set all channels up anew (see `setsUpAnew`) stay
 * out where own notes begin behind them. Of a part that is laid onto a track, and has no notes on a channel,
 * what it says is meant for the notes that are there: it is only set back behind it.
 */
export function protectOwnNotes(
  song: Song,
  parts: readonly Track[],
  laid?: LaidOn,
): readonly ProtectedPart[] {
  const done = parts.map((part) => ({ part, said: [] as string[] }));
  for (const group of byPorts(done)) {
    for (const channel of channelsIn(
      group.reduce((all, { part }) => all | factsOf(part).channels, 0),
    ))
      settle(song, group, channel, laid);
    for (const its of group) withoutResets(song, its, laid);
  }
  return done;
}

interface Coming {
  part: Track;
  readonly said: string[];
}

function byPorts(parts: readonly Coming[]): Coming[][] {
  const groups = new Map<string, Coming[]>();
  for (const its of parts) {
    const key = factsOf(its.part).ports.join(' ');
    const group = groups.get(key);
    if (group) group.push(its);
    else groups.set(key, [its]);
  }
  return [...groups.values()];
}

/** Whether a row sets something on a channel, for whatever sounds there: no note, nothing that is parked. */
const setsOn =
  (events: Events, channel: number, isParked: (row: number) => boolean) => (row: number) => {
    const status = events.status[row]!;
    return status >= 0xa0 && status < 0xf0 && (status & 15) === channel && !isParked(row);
  };

/** From the first that parts set on a channel to the last that they say there; and whether they have notes there. */
function spanOn(group: readonly Coming[], channel: number) {
  let [from, to, notes] = [Infinity, 0, false];
  for (const { part } of group) {
    const { events } = part;
    const sets = setsOn(events, channel, parkedRows(part));
    for (let row = 0; row < events.count; row++) {
      if (events.status[row]! >= 0xf0 || (events.status[row]! & 15) !== channel) continue;
      to = Math.max(to, events.atTick[row]!);
      notes ||= events.status[row]! >> 4 === 9;
      if (events.atTick[row]! < from && sets(row)) from = events.atTick[row]!;
    }
  }
  return { from, to, notes };
}

function settle(
  song: Song,
  group: readonly Coming[],
  channel: number,
  laid: LaidOn | undefined,
): void {
  const span = spanOn(group, channel);
  if (span.from === Infinity) return;
  const to = Math.max(span.to, laid?.until ?? 0);
  const as = laid?.there ?? group[0]!.part;
  const standing = laid?.standing ?? song;
  const sounding = soundingOn(standing, as.events, channel);
  const hears = sounding.soundsAt(span.from);
  const first = sounding.starts.find((tick) => tick >= span.from);
  if (first === undefined && !hears) return;
  const isMeant = laid !== undefined && !span.notes;
  const among = (first !== undefined && first <= to) || (hears && !laid?.until);
  const takeAllOut = (): void => group.forEach((its) => takeOut(its, channel));
  if (!isMeant && among) return takeAllOut();
  const back = setBack(song, standing, group, { channel, to, as });
  if (!isMeant && back.unknown > 0) return takeAllOut();
  const behind = sounding.starts.some((tick) => tick > to);
  if (behind && back.messages.length > 0) putBehind(group, channel, to, back.messages);
  if (behind && back.unknown > 0)
    group[0]!.said.push(
      `${counted(back.unknown, 'value')} of channel ${channel + 1} stay set after it, since this song sets none before`,
    );
}

interface At {
  readonly channel: number;
  readonly to: number;
  /** Who is heard on the channel: all that share it with this track. */
  readonly as: Track;
}

/**
 * Messages after which a channel is set as the song alone has it, where its own that stand have been said and
 * what the parts say; and for how much of it nobody knows that.
 */
function setBack(
  song: Song,
  standing: Song,
  group: readonly Coming[],
  { channel, to, as }: At,
): ReturnType<ChannelValues['upTo']> {
  const { ports } = factsOf(as);
  const is = [...heardOn(standing, ports, channel), ...group.map(({ part }) => part)];
  const was = setUpTo(heardOn(song, ports, channel), channel, to);
  return setUpTo(is, channel, to).upTo(was, channel);
}

/** What tracks that play together have set a channel to, with all that they say up to a tick. */
function setUpTo(tracks: readonly Track[], channel: number, to: number): ChannelValues {
  const said = tracks.flatMap((track, order) => {
    const { events } = track;
    const sets = setsOn(events, channel, parkedRows(track));
    const rows: { events: Events; row: number; order: number }[] = [];
    for (let row = 0; row < events.count && events.atTick[row]! <= to; row++)
      if (sets(row) || resetsAll(events, row)) rows.push({ events, row, order });
    return rows;
  });
  said.sort(
    (a, b) =>
      a.events.atTick[a.row]! - b.events.atTick[b.row]! || a.order - b.order || a.row - b.row,
  );
  const values = new ChannelValues();
  for (const { events, row } of said)
    if (events.status[row] === SYSEX) values.clear();
    else values.hear(events.status[row]!, events.data1[row]!, events.data2[row]!);
  return values;
}

const resetsAll = (events: Events, row: number): boolean =>
  events.status[row] === SYSEX && setsUpAnew(payloadOf(events, row));

function takeOut(its: Coming, channel: number): void {
  const { events } = its.part;
  const sets = setsOn(events, channel, parkedRows(its.part));
  const words = without(its, sets);
  if (words)
    its.said.push(
      channel === percussionChannel
        ? `plays the kit of this song: ${words} left out`
        : `plays what this song has on channel ${channel + 1}: ${words} left out`,
    );
}

function withoutResets(song: Song, its: Coming, laid: LaidOn | undefined): void {
  const { events } = its.part;
  const as = laid?.there.events ?? events;
  const lastOwn = (): number =>
    Math.max(...Array.from({ length: 16 }, (_, c) => soundingOn(song, as, c).starts.at(-1) ?? -1));
  let last: number | undefined;
  const words = without(
    its,
    (row) => resetsAll(events, row) && events.atTick[row]! <= (last ??= lastOwn()),
  );
  if (words) its.said.push(`${words} left out: it would reset this song’s parts`);
}

/** Takes rows out of a part; how many of what, in words, or undefined where there were none. */
function without(its: Coming, leaves: (row: number) => boolean): string | undefined {
  const { events } = its.part;
  const kept: number[] = [];
  const kinds = new Map<string, number>();
  for (let row = 0; row < events.count; row++)
    if (leaves(row)) {
      const kind = kindOf(events, row) ?? 'other';
      kinds.set(kind, (kinds.get(kind) ?? 0) + 1);
    } else kept.push(row);
  if (kinds.size === 0) return undefined;
  its.part = withEvents(its.part, pickEvents(events, kept));
  return [...kinds].map(([kind, n]) => counted(n, kind)).join(', ');
}

/** Messages behind all that parts say on a channel: in the last of those that speak last. */
function putBehind(
  group: readonly Coming[],
  channel: number,
  to: number,
  messages: readonly (readonly number[])[],
): void {
  const ends = group.map((its) => spanOn([its], channel).to);
  const its = group[ends.lastIndexOf(Math.max(...ends))]!;
  const { events } = its.part;
  const put = messages.map(([status, data1, data2]) => channelEvent(to, status!, data1!, data2!));
  const end = metaEvent(Math.max(to, endTick(events)), meta.endOfTrack);
  its.part = withEvents(its.part, mergeEvents([events, packEvents([...put, end])]));
  its.said.push(
    `channel ${channel + 1} is restored after it (${counted(messages.length, 'message')})`,
  );
}
