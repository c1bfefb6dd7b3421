import { soundingOn } from '../../../edit/heard.ts';
import { pickEvents } from '../../../smf/event-builder.ts';
import type { Events } from '../../../smf/events.ts';
import { mergeEvents } from '../../../smf/merge.ts';
import { parkedRows } from '../../../song/lanes.ts';
import { portOf } from '../../../song/ports.ts';
import { withEvents, type Song, type Track } from '../../../song/song.ts';

/**
 * Tracks of one channel hear each other's programs and controllers. Where some leave it, those that stay
 * are given what the others said there, and those that leave take along what they did not say themselves.
 */
export function handedOver(
  song: Song,
  leaving: readonly Track[],
  staying: readonly Track[],
  channel: number,
): ReadonlyMap<string, Track> {
  const byId = new Map<string, Track>();
  const port = portOf(leaving[0]!.events);
  const others = staying.filter((t) => portOf(t.events) === port);
  if (others.length === 0) return byId;
  const place = new Map(song.tracks.map((t, n) => [t, n]));
  const isBefore = (a: Track, b: Track): boolean => place.get(a)! < place.get(b)!;
  const rest = { ...song, tracks: song.tracks.filter((t) => !leaving.includes(t)) };
  const gains = new Map<Track, { before: Events[]; behind: Events[] }>();
  for (const track of leaving) {
    const said = saidOn(track, channel, heardBy(rest, others, channel));
    // Its neighbour says it where it stood among the others, also on one tick.
    const next = others.find((t) => isBefore(track, t));
    const to = next ?? others.at(-1)!;
    const gain = gains.get(to) ?? { before: [], behind: [] };
    gains.set(to, gain);
    if (said) gain[next ? 'before' : 'behind'].push(said);
  }
  for (const [track, { before, behind }] of gains)
    if (before.length + behind.length > 0) byId.set(track.id, withSaid(track, before, behind));
  const along = takingAlong(song, leaving, others, channel);
  if (along !== leaving[0]) byId.set(along.id, along);
  return byId;
}

/**
 * The first of some tracks with what others said on their channel, was heard with them, and none of them
 * says itself; sounds aside.
 */
export function takingAlong(
  song: Song,
  [first, ...more]: readonly Track[],
  others: readonly Track[],
  channel: number,
): Track {
  const port = portOf(first!.events);
  const own = lanesSaid([first!, ...more], channel);
  const place = song.tracks.indexOf(first!);
  const ofSeveral = saidBySeveral(others, channel);
  const taken = (from: readonly Track[]): Events[] =>
    from
      .filter((t) => portOf(t.events) === port)
      .flatMap(
        (t) =>
          saidOn(
            t,
            channel,
            (events, row, _until, again) =>
              !own.has(laneOf(events, row)) &&
              !isSound(events, row) &&
              !(again && !ofSeveral.has(laneOf(events, row))),
          ) ?? [],
      );
  const before = taken(others.filter((t) => song.tracks.indexOf(t) < place));
  const behind = taken(others.filter((t) => song.tracks.indexOf(t) > place));
  return before.length + behind.length > 0 ? withSaid(first!, before, behind) : first!;
}

/**
 * Whether a message is wanted that counts until a tick; `again` where the one of its kind before it in the
 * track said the same.
 */
type Wanted = (events: Events, row: number, until: number, again: boolean) => boolean;

/** What more than one of some tracks sets on a channel: there a repeat may follow what another said. */
function saidBySeveral(tracks: readonly Track[], channel: number): ReadonlySet<number> {
  const once = new Set<number>();
  const several = new Set<number>();
  for (const track of tracks)
    for (const lane of lanesSaid([track], channel)) (once.has(lane) ? several : once).add(lane);
  return several;
}

/** Controllers that mean something with others only, or that hold what sounds: told whole. */
const together: ReadonlySet<number> = new Set([0, 6, 32, 38, 64, 66, 96, 97, 98, 99, 100, 101]);

/** Whether somebody who stays would hear a message that counts until a tick. */
function heardBy(rest: Song, others: readonly Track[], channel: number): Wanted {
  const { starts, soundsAt } = soundingOn(rest, others[0]!.events, channel);
  return (events, row, until) => {
    const tick = events.atTick[row]!;
    if (starts.length === 0) return false;
    if (
      events.status[row]! >> 4 === 0xb &&
      (together.has(events.data1[row]!) || events.data1[row]! >= 120)
    )
      return true;
    return soundsAt(tick) || (starts[firstFrom(starts, tick)] ?? Infinity) <= until;
  };
}

/** Place of the first of ascending ticks that is not before one. */
function firstFrom(ticks: Float64Array, tick: number): number {
  let [low, high] = [0, ticks.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ticks[middle]! < tick) low = middle + 1;
    else high = middle;
  }
  return low;
}

const isSound = ({ status, data1 }: Events, row: number): boolean =>
  status[row]! >> 4 === 0xc ||
  (status[row]! >> 4 === 0xb && (data1[row] === 0 || data1[row] === 32));

/** What a message sets: a controller, or a kind of its own. */
const laneOf = ({ status, data1 }: Events, row: number): number =>
  status[row]! >> 4 === 0xb ? data1[row]! : (status[row]! >> 4) << 8;

function lanesSaid(tracks: readonly Track[], channel: number): ReadonlySet<number> {
  const lanes = new Set<number>();
  for (const { events } of tracks)
    for (let i = 0; i < events.count; i++)
      if (says(events, i, channel)) lanes.add(laneOf(events, i));
  return lanes;
}

/** Whether a row sets anything on a channel: not a note, and not the pressure of one. */
const says = ({ status }: Events, row: number, channel: number): boolean =>
  (status[row]! & 15) === channel && status[row]! >> 4 >= 0xb && status[row]! >> 4 <= 0xe;

/**
 * What of a track's messages on a channel is wanted, which is not parked; each counts until the next of its
 * kind in the track.
 */
function saidOn(track: Track, channel: number, isWanted: Wanted): Events | undefined {
  const { events } = track;
  const isParked = parkedRows(track);
  const rows: number[] = [];
  const said: number[] = [];
  for (let i = 0; i < events.count - 1; i++)
    if (says(events, i, channel) && !isParked(i)) said.push(i);
  const again = repeats(events, said);
  const next = new Map<number, number>();
  for (const i of said.reverse()) {
    const lane = laneOf(events, i);
    if (isWanted(events, i, next.get(lane) ?? Infinity, again.has(i))) rows.push(i);
    next.set(lane, events.atTick[i]!);
  }
  return rows.length === 0 ? undefined : pickEvents(events, [...rows.reverse(), events.count - 1]);
}

/**
 * Rows that say what the one of their kind before them said, where that means nothing: what goes with
 * others is no repeat.
 */
function repeats({ status, data1, data2 }: Events, rows: readonly number[]): ReadonlySet<number> {
  const last = new Map<number, number>();
  const again = new Set<number>();
  for (const row of rows) {
    const controller = status[row]! >> 4 === 0xb;
    if (controller && (together.has(data1[row]!) || data1[row]! >= 120)) {
      // Reset all controllers: what is said behind it is said anew.
      if (data1[row]! >= 120) last.clear();
      continue;
    }
    const lane = controller ? data1[row]! : (status[row]! >> 4) << 8;
    const value = controller ? data2[row]! : data1[row]! | (data2[row]! << 7);
    if (last.get(lane) === value) again.add(row);
    last.set(lane, value);
  }
  return again;
}

/**
 * A track with messages of others: before its own on one tick, or behind them. It gets no longer by what
 * they are followed by.
 */
function withSaid(track: Track, before: readonly Events[], behind: readonly Events[]): Track {
  const end = track.events.atTick[track.events.count - 1]!;
  const within = (events: Events): Events => {
    const last = events.count - 1;
    const atTick = events.atTick.slice();
    atTick[last] = Math.max(atTick[last - 1]!, Math.min(atTick[last]!, end));
    return { ...events, atTick };
  };
  return withEvents(
    track,
    mergeEvents([...before.map(within), track.events, ...behind.map(within)]),
  );
}
