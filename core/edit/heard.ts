import { SYSEX, type Events } from '../smf/events.ts';
import { laneKey, lanesOf, type Lane } from '../song/lanes.ts';
import { notesOf } from '../song/notes.ts';
import type { Song, Track } from '../song/song.ts';
import { factsOf, factsOfEvents } from '../song/track-facts.ts';

/**
 * What sounds on one channel of a song, over all its tracks: notes as long as a damper or sostenuto pedal
 * holds them.
 */
export interface Sounding {
  /** Ticks where notes begin, in order. */
  readonly starts: Float64Array;
  /** Tick where the last of them ends. */
  readonly last: number;
  /** Whether one sounds over a tick: has begun by then, and does not end there. */
  soundsAt(tick: number): boolean;
}

const damper = 64;
const sostenuto = 66;
const allReset = 121;
const channels = 16;
const isDown = (value: number): boolean => value >= 64;

/** What one track plays and says on its channels, gone through once. */
interface Played {
  /** Ticks where notes of each channel begin and end, in no order. */
  readonly notes: readonly { readonly from: number[]; readonly to: number[] }[];
  /** Ticks on which it resets controllers of each channel, or may do so. */
  readonly resets: readonly number[][];
  /** Its lanes by channel and kind. */
  readonly lanes: ReadonlyMap<string, Lane>;
}

const playedBy = new WeakMap<Events, Played>();

function playedIn(events: Events): Played {
  const known = playedBy.get(events);
  if (known) return known;
  const notes = Array.from({ length: channels }, () => ({
    from: [] as number[],
    to: [] as number[],
  }));
  const resets = Array.from({ length: channels }, () => [] as number[]);
  const { status, data1, atTick } = events;
  for (let i = 0; i < events.count; i++) {
    if (status[i] === SYSEX) for (const ticks of resets) ticks.push(atTick[i]!);
    else if (status[i]! >> 4 === 0xb && data1[i] === allReset)
      resets[status[i]! & 15]!.push(atTick[i]!);
  }
  const { count, on, off } = notesOf(events);
  for (let n = 0; n < count; n++) {
    const { from, to } = notes[status[on[n]!]! & 15]!;
    from.push(atTick[on[n]!]!);
    to.push(off[n] === -1 ? Infinity : atTick[off[n]!]!);
  }
  const played = {
    notes,
    resets,
    lanes: new Map(lanesOf(events).map((lane) => [laneKey(lane.channel, lane.what), lane])),
  };
  playedBy.set(events, played);
  return played;
}

/** A channel as a track hears it: with all that play on it, or reset it. */
interface Room {
  readonly channel: number;
  readonly tracks: readonly { readonly events: Events; readonly played: Played }[];
  /** Ticks on which controllers are reset, or may be, ascending. */
  readonly resets: Float64Array;
  sounding?: Sounding;
  /** Ticks of all messages of lanes that several tracks speak on, ascending. */
  readonly shared: Map<string, Float64Array>;
}

const rooms = new WeakMap<Song, Map<string, Room>>();

/**
 * The tracks of a song that send or reset on each channel; and of those, by channel and ports, which a
 * track of these ports hears.
 */
interface Heard {
  readonly byChannel: readonly (readonly Track[])[];
  readonly byPorts: Map<string, readonly Track[]>;
}

const heard = new WeakMap<Song, Heard>();

function heardIn(song: Song): Heard {
  const known = heard.get(song);
  if (known) return known;
  const byChannel = Array.from({ length: channels }, (_, c) =>
    song.tracks.filter((t) => factsOf(t).exclusive || (factsOf(t).channels & (1 << c)) !== 0),
  );
  const made = { byChannel, byPorts: new Map<string, readonly Track[]>() };
  heard.set(song, made);
  return made;
}

/** Whether tracks of these ports may play one instrument: a track that names no port may be on any. */
export const meet = (a: readonly number[], b: readonly number[]): boolean =>
  a.length === 0 || b.length === 0 || a.some((port) => b.includes(port));

/**
 * The tracks that are heard, or reset controllers, on a channel (0–15) on which a track of these ports
 * plays; the same list however often it is asked for.
 */
export function heardOn(song: Song, ports: readonly number[], channel: number): readonly Track[] {
  const { byChannel, byPorts } = heardIn(song);
  const key = `${channel} ${ports.join(' ')}`;
  const known = byPorts.get(key);
  if (known) return known;
  const tracks = byChannel[channel]!.filter((t) => meet(factsOf(t).ports, ports));
  byPorts.set(key, tracks);
  return tracks;
}

function roomOf(song: Song, of: Events, channel: number): Room {
  const { ports } = factsOfEvents(of);
  const all = rooms.get(song) ?? new Map<string, Room>();
  rooms.set(song, all);
  const key = `${channel} ${ports.join(' ')}`;
  const known = all.get(key);
  if (known) return known;
  const tracks = heardOn(song, ports, channel).map(({ events }) => ({
    events,
    played: playedIn(events),
  }));
  const room = {
    channel,
    tracks,
    resets: Float64Array.from(tracks.flatMap(({ played }) => played.resets[channel]!)).sort(),
    shared: new Map<string, Float64Array>(),
  };
  all.set(key, room);
  return room;
}

/** What sounds on a channel (0–15) of a track: its own notes, and those of others that may play the same instrument. */
export function soundingOn(song: Song, events: Events, channel: number): Sounding {
  const room = roomOf(song, events, channel);
  return (room.sounding ??= soundingIn(room));
}

function soundingIn(room: Room): Sounding {
  const [down, held] = [pedal(room, damper), pedal(room, sostenuto)];
  const notes = room.tracks.map(({ played }) => played.notes[room.channel]!);
  const [from, to] = [notes.flatMap((n) => n.from), notes.flatMap((n) => n.to)];
  const order = Uint32Array.from(from.keys());
  // Notes of one track are in order as they are.
  if (notes.length > 1) order.sort((a, b) => from[a]! - from[b]!);
  const starts = Float64Array.from(order, (n) => from[n]!);
  const reach = new Float64Array(order.length);
  order.forEach((n, i) => {
    const end = Math.max(
      heldBy(down, to[n]!),
      catches(held, from[n]!, to[n]!) ? heldBy(held, to[n]!) : 0,
    );
    reach[i] = Math.max(end, reach[i - 1] ?? 0);
  });
  return {
    starts,
    last: reach.at(-1) ?? 0,
    soundsAt: (tick) => ((i) => i > 0 && reach[i - 1]! > tick)(notAbove(starts, tick)),
  };
}

/** What the tracks of a room say in one lane, track after track. */
const saidIn = ({ tracks, channel }: Room, what: Lane['what']): { events: Events; lane: Lane }[] =>
  tracks.flatMap(({ events, played }) =>
    ((lane) => (lane ? [{ events, lane }] : []))(played.lanes.get(laneKey(channel, what))),
  );

/** Where a pedal goes down and up, in order; the up of a pedal that is never released is endless. */
interface Pedal {
  readonly downs: Float64Array;
  readonly ups: Float64Array;
}

function pedal(room: Room, number: number): Pedal {
  const said = saidIn(room, number).flatMap(({ events, lane }) =>
    lane.rows.map((row, n) => ({ tick: events.atTick[row]!, value: lane.values[n]! })),
  );
  said.sort((a, b) => a.tick - b.tick);
  const downs: number[] = [];
  const ups: number[] = [];
  for (const { tick, value } of said) {
    if (isDown(value) && downs.length === ups.length) downs.push(tick);
    else if (!isDown(value) && downs.length > ups.length) ups.push(tick);
  }
  if (downs.length > ups.length) ups.push(Infinity);
  return { downs: Float64Array.from(downs), ups: Float64Array.from(ups) };
}

/** When what ends at a tick falls silent: when the pedal goes up, where it is down on that tick. */
function heldBy({ downs, ups }: Pedal, end: number): number {
  const i = notAbove(downs, end) - 1;
  return i < 0 ? end : Math.max(end, ups[i]!);
}

/** Whether a pedal that catches what sounds goes down while a note does. */
function catches({ downs }: Pedal, from: number, end: number): boolean {
  const i = notAbove(downs, end) - 1;
  return i >= 0 && downs[i]! >= from;
}

/** How many of ascending values are not above one. */
function notAbove(values: Float64Array, value: number): number {
  let [low, high] = [0, values.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (values[middle]! <= value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** How many of ascending ticks lie from one to another, both included. */
const between = (ticks: Float64Array, from: number, to: number): number =>
  notAbove(ticks, to) - notAbove(ticks, from - 1);

/**
 * The values of a lane in stretches within which each stays in force until the next, as places in
 * `lane.rows`: between two stretches something else changes what the lane says — controllers are reset
 * (121, or a system exclusive message, which may reset all), or another track of the channel speaks. The
 * coarse half of a pair of controllers whose fine half (32 higher) is used sets that to 0 with each message
 * (MIDI 1.0): each stands alone.
 */
export function stretches(song: Song, events: Events, lane: Lane): number[][] {
  const { channel, what } = lane;
  const room = roomOf(song, events, channel);
  if (typeof what === 'number' && what < 32 && saidIn(room, what + 32).length > 0)
    return lane.rows.map((_, n) => [n]);
  const { resets } = room;
  const others = sharedTicks(room, what);
  const own = others && Float64Array.from(lane.rows, (row) => events.atTick[row]!);
  const found: number[][] = [];
  let before = -Infinity;
  lane.rows.forEach((row, n) => {
    const tick = events.atTick[row]!;
    const broken =
      between(resets, before, tick) > 0 ||
      (others && between(others, before, tick) > between(own!, before, tick));
    if (n === 0 || broken) found.push([n]);
    else found.at(-1)!.push(n);
    before = tick;
  });
  return found;
}

/** Ticks of a lane that several tracks speak on; undefined where one does. */
function sharedTicks(room: Room, what: Lane['what']): Float64Array | undefined {
  const key = laneKey(room.channel, what);
  const known = room.shared.get(key);
  if (known) return known;
  const said = saidIn(room, what);
  if (said.length < 2) return undefined;
  const ticks = Float64Array.from(
    said.flatMap(({ events, lane }) => lane.rows.map((row) => events.atTick[row]!)),
  ).sort();
  room.shared.set(key, ticks);
  return ticks;
}
