import { SYSEX, payloadOf, type Events } from '../../smf/events.ts';
import { indexEvents } from '../../song/event-index.ts';
import { parkedRows } from '../../song/lanes.ts';
import type { Track } from '../../song/song.ts';
import { factsOf } from '../../song/track-facts.ts';
import { channelsIn } from '../../units/channel-bits.ts';
import { setsUpAnew } from '../excerpt/in-force.ts';
import { ChannelValues, slotsOf } from './channel-values.ts';

/**
 * What is said on one channel by tracks that share it: what it is set to at each of some ticks, before
 * anything of that tick is said.
 */
export interface Line {
  readonly channel: number;
  /** Who says it, in the song's order; the first is the one that speaks for all. */
  readonly tracks: readonly Track[];
  readonly at: readonly ChannelValues[];
  /** Of a row of one of its tracks whether it is said here. */
  readonly says: (track: Track, row: number) => boolean;
}

/**
 * The first rows of a track that stand on tick 0 before its first note there: how it is set up. They hold
 * from the beginning on, whatever comes first.
 */
export function headRows({ count, atTick, status, data2 }: Events): number {
  let row = 0;
  while (row < count - 1 && atTick[row] === 0 && (status[row]! >> 4 !== 9 || data2[row] === 0))
    row++;
  return row;
}

/** The row of the first event at or behind a tick, its end of track at the latest. */
export function firstRow({ atTick, count }: Events, tick: number): number {
  let [low, high] = [0, count - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (atTick[middle]! < tick) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The channels of tracks that play one instrument, at some ticks in ascending order. Parked lanes say nothing. */
export function linesOf(tracks: readonly Track[], ticks: readonly number[]): Line[] {
  const resets = resetsIn(tracks);
  const isParked = new Map(tracks.map((t) => [t.id, parkedRows(t)]));
  return sharing(tracks).flatMap((group) =>
    linesIn(group, ticks, (track, row) => !isParked.get(track.id)!(row), resets),
  );
}

/** The parked lanes of a track at some ticks: kept, so that they are what they were when they are unparked. */
export function parkedLinesOf(track: Track, ticks: readonly number[]): Line[] {
  if (!track.parked?.length) return [];
  const isParked = parkedRows(track);
  return linesIn([track], ticks, (_, row) => isParked(row), []);
}

/** Where an instrument is set up anew: what was said before counts no more. */
interface Reset {
  readonly atTick: number;
  readonly track: Track;
  readonly row: number;
}

function resetsIn(tracks: readonly Track[]): Reset[] {
  return tracks
    .filter((t) => factsOf(t).exclusive)
    .flatMap((track) => {
      const { events } = track;
      const found: Reset[] = [];
      for (let row = 0; row < events.count; row++)
        if (events.status[row] === SYSEX && setsUpAnew(payloadOf(events, row)))
          found.push({ atTick: events.atTick[row]!, track, row });
      return found;
    })
    .sort((a, b) => a.atTick - b.atTick);
}

/** Tracks in groups that share no channel with each other. */
function sharing(tracks: readonly Track[]): Track[][] {
  let groups: { channels: number; tracks: Track[] }[] = [];
  for (const track of tracks) {
    const { channels } = factsOf(track);
    if (channels === 0) continue;
    const meets = groups.filter((g) => (g.channels & channels) !== 0);
    const one = {
      channels: meets.reduce((all, g) => all | g.channels, channels),
      tracks: [...meets.flatMap((g) => g.tracks), track],
    };
    groups = [...groups.filter((g) => !meets.includes(g)), one];
  }
  const place = new Map(tracks.map((t, n) => [t.id, n]));
  return groups.map((g) => g.tracks.sort((a, b) => place.get(a.id)! - place.get(b.id)!));
}

const says = ({ status }: Events, row: number): boolean =>
  status[row]! >= 0xa0 && status[row]! < 0xf0;

function linesIn(
  tracks: readonly Track[],
  ticks: readonly number[],
  saysHere: Line['says'],
  resets: readonly Reset[],
): Line[] {
  const mask = tracks.reduce((all, t) => all | factsOf(t).channels, 0);
  const now = new Map(channelsIn(mask).map((c) => [c, new ChannelValues()]));
  const at = new Map([...now.keys()].map((c) => [c, [] as ChannelValues[]]));
  const place = new Map(tracks.map((t, n) => [t.id, n]));
  let [tick, reset] = [0, 0];
  const upTo = (reached: number): void => {
    for (; tick < ticks.length && ticks[tick]! <= reached; tick++)
      for (const [c, values] of now) at.get(c)!.push(values.copy());
  };
  const setUpAnew = (before: number, track: number, row: number): void => {
    for (; reset < resets.length; reset++) {
      const { atTick, track: by, row: its } = resets[reset]!;
      const where = place.get(by.id) ?? -1;
      // Of one tick the tracks count in their order.
      if (atTick > before) return;
      if (atTick === before && (where > track || (where === track && its > row))) return;
      upTo(atTick === 0 ? -1 : atTick);
      for (const values of now.values()) values.clear();
    }
  };
  const heads = tracks.map((t) => headRows(t.events));
  const hear = (n: number, row: number): void => {
    const track = tracks[n]!;
    const { atTick, status, data1, data2 } = track.events;
    const is = row < heads[n]! ? -1 : atTick[row]!;
    if (reset < resets.length) setUpAnew(atTick[row]!, n, row);
    if (tick < ticks.length && ticks[tick]! <= is) upTo(is);
    if (saysHere(track, row))
      now.get(status[row]! & 15)!.hear(status[row]!, data1[row]!, data2[row]!);
  };
  inOrder(tracks, heads, ticks.at(-1) ?? -1, hear);
  setUpAnew((ticks.at(-1) ?? 0) - 1, Infinity, 0);
  upTo(Infinity);
  return [...at].map(([channel, all]) => ({
    channel,
    tracks: tracks.filter((t) => factsOf(t).channels & (1 << channel)),
    at: all,
    says: saysHere,
  }));
}

/** The rows that set something, up to a tick, in the order in which they are heard: what sets tracks up first. */
function inOrder(
  tracks: readonly Track[],
  heads: readonly number[],
  until: number,
  hear: (track: number, row: number) => void,
): void {
  if (tracks.length === 1) {
    const { events } = tracks[0]!;
    const end = firstRow(events, until + 1);
    for (let row = 0; row < end; row++) if (says(events, row)) hear(0, row);
    return;
  }
  tracks.forEach(({ events }, n) => {
    for (let row = 0; row < heads[n]!; row++) if (says(events, row)) hear(n, row);
  });
  const columns = tracks.map((t) => t.events);
  const head = new Map(columns.map((events, n) => [events, heads[n]!]));
  const index = indexEvents(
    columns,
    (events, row) => events.atTick[row]! <= until && row >= head.get(events)! && says(events, row),
  );
  for (let n = 0; n < index.count; n++) hear(index.track[n]!, index.row[n]!);
}

/**
 * What is said on a channel on a tick before its first note there, as slots of what it is set to: it need
 * not be said before it.
 */
export function coveredAt({ channel, tracks, says: saysHere }: Line, tick: number): Set<number> {
  const covered = new Set<number>();
  for (const track of tracks) {
    const { events } = track;
    const { atTick, status, data1, data2, count } = events;
    const from = tick === 0 ? headRows(events) : firstRow(events, tick);
    for (let row = from; row < count - 1 && atTick[row] === tick; row++) {
      if ((status[row]! & 15) !== channel || status[row]! >= 0xf0) continue;
      if (status[row]! >> 4 === 9 && data2[row] !== 0) return covered;
      if (!saysHere(track, row)) continue;
      for (const slot of slotsOf(status[row]!, data1[row]!)) covered.add(slot);
    }
  }
  return covered;
}
