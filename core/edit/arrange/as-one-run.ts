import {
  META,
  channelEvent,
  endTick,
  meta,
  metaEvent,
  type Events,
  type EventValue,
} from '../../smf/events.ts';
import { eventsFrom, pickEvents } from '../../smf/event-builder.ts';
import { mergeEvents } from '../../smf/merge.ts';
import { portOf } from '../../song/ports.ts';
import { channelsOf, withEvents, type Track } from '../../song/song.ts';
import { factsOf } from '../../song/track-facts.ts';
import { aboutTrack } from '../about-track.ts';
import { onOtherChannels } from '../other-channels.ts';
import { ChannelValues } from './channel-values.ts';
import { coveredAt, linesOf } from './values-at.ts';

/** A track's part of a run: from its first note to the end of its last. */
interface Piece {
  readonly track: Track;
  readonly from: number;
  readonly to: number;
}

export const piecesOf = (tracks: readonly Track[]): Piece[] =>
  tracks
    .map((track) => ({ track, ...sounds(track.events) }))
    .sort((a, b) => a.from - b.from || a.to - b.to);

function sounds({ count, status, data2, atTick }: Events): { from: number; to: number } {
  let from = Infinity;
  let to = 0;
  for (let i = 0; i < count; i++) {
    if (status[i]! >> 4 !== 8 && status[i]! >> 4 !== 9) continue;
    if (status[i]! >> 4 === 9 && data2[i] !== 0) from = Math.min(from, atTick[i]!);
    to = atTick[i]!;
  }
  return { from: from === Infinity ? endTick({ count, atTick } as Events) : from, to };
}

/**
 * Tracks that play one after the other as one track, from its beginning to `end`: on the channel of the
 * first, where each plays on one; where one takes over, what its channel was set to and differs is said.
 */
export function asOneRun(tracks: readonly Track[], end: number): Track {
  const home = tracks[0]!;
  const pieces = piecesOf(tracks);
  const channel = channelsOf(pieces[0]!.track.events)[0] ?? 0;
  const bodies = pieces.map(({ track }) =>
    track.id === home.id ? track.events : withoutNames(track.events),
  );
  const shared = tracks.every((t) => playsWith(t, home));
  const run = shared
    ? mergeEvents(bodies)
    : pieces.reduce<Events | undefined>((before, { track, from }, n) => {
        const [own] = channelsOf(track.events);
        const to = new Map([[own!, channel]]);
        const body = onOtherChannels(withEvents(track, bodies[n]!), to).events;
        if (!before) return body;
        const heard = tracks.filter((t) => portOf(t.events) === portOf(track.events));
        const taking = takingOver(withEvents(home, before), heard, own!, channel, from);
        return mergeEvents([before, eventsFrom(taking), saidFrom(body, from)]);
      }, undefined)!;
  return withEvents(home, mergeEvents([run, eventsFrom([metaEvent(end, meta.endOfTrack)])]));
}

/** Whether two tracks play on the same channels of one port: what either says there is heard by both. */
const playsWith = (a: Track, b: Track): boolean =>
  factsOf(a).channels === factsOf(b).channels && portOf(a.events) === portOf(b.events);

/** What is said as a piece takes over from a run at a tick, where its own channel is set otherwise. */
function takingOver(
  run: Track,
  tracks: readonly Track[],
  own: number,
  channel: number,
  tick: number,
): EventValue[] {
  const line = linesOf(tracks, [tick]).find((l) => l.channel === own)!;
  const has = linesOf([run], [tick]).find((l) => l.channel === channel);
  const { messages } = (has?.at[0] ?? new ChannelValues()).upTo(
    line.at[0]!,
    channel,
    coveredAt(line, tick),
  );
  return messages.map(([status, data1, data2]) => channelEvent(tick, status, data1, data2));
}

/** A piece without what it says before it takes over, which would be heard by what plays until then. */
const saidFrom = (events: Events, tick: number): Events =>
  without(events, (row) => events.status[row]! < 0xf0 && events.atTick[row]! < tick);

const withoutNames = (events: Events): Events =>
  without(events, (row) => events.status[row] === META && aboutTrack.has(events.data1[row]!));

function without(events: Events, drop: (row: number) => boolean): Events {
  const rows: number[] = [];
  for (let row = 0; row < events.count; row++) if (!drop(row)) rows.push(row);
  return rows.length === events.count ? events : pickEvents(events, rows);
}

/** Whether pieces sound over each other on channels that would become one. */
export const overlapping = (tracks: readonly Track[]): Piece | undefined => {
  const pieces = piecesOf(tracks);
  return pieces.find(
    ({ track, from }, n) =>
      n > 0 &&
      from < Math.max(...pieces.slice(0, n).map((p) => p.to)) &&
      !playsWith(track, pieces[0]!.track),
  );
};
