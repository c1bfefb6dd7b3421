import type { Events } from '../smf/events.ts';
import { laneKey, lanesOf, type Lane } from './lanes.ts';
import { notesOf } from './notes.ts';
import type { Song } from './song.ts';

/** What sounds on one channel of a song, over all its tracks: notes as long as a damper or sostenuto pedal holds them. */
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

/** What is asked of a song's channels, gone through once. */
interface Channels {
  /** Ticks where notes of each channel begin and end, in no order. */
  readonly notes: readonly { readonly from: number[]; readonly to: number[] }[];
  /** Ticks on which controllers of each channel are reset, or may be, ascending. */
  readonly resets: readonly Float64Array[];
  /** Lanes by channel and kind, of all tracks. */
  readonly lanes: ReadonlyMap<string, readonly { readonly events: Events; readonly lane: Lane }[]>;
  readonly sounding: (Sounding | undefined)[];
  /** Ticks of all messages of lanes that several tracks speak on, ascending. */
  readonly shared: Map<string, Float64Array>;
}

const cache = new WeakMap<Song, Channels>();

function channelsIn(song: Song): Channels {
  const known = cache.get(song);
  if (known) return known;
  const notes = Array.from({ length: channels }, () => ({ from: [] as number[], to: [] as number[] }));
  const resets = Array.from({ length: channels }, () => [] as number[]);
  const lanes = new Map<string, { events: Events; lane: Lane }[]>();
  for (const { events } of song.tracks) {
    const { status, data1, atTick } = events;
    for (let i = 0; i < events.count; i++) {
      if (status[i] === 0xf0) for (const ticks of resets) ticks.push(atTick[i]!);
      else if (status[i]! >> 4 === 0xb && data1[i] === allReset) resets[status[i]! & 15]!.push(atTick[i]!);
    }
    const { count, on, off } = notesOf(events);
    for (let n = 0; n < count; n++) {
      const { from, to } = notes[status[on[n]!]! & 15]!;
      from.push(atTick[on[n]!]!);
      to.push(off[n] === -1 ? Infinity : atTick[off[n]!]!);
    }
    for (const lane of lanesOf(events)) {
      const key = laneKey(lane.channel, lane.what);
      const its = lanes.get(key);
      if (its) its.push({ events, lane });
      else lanes.set(key, [{ events, lane }]);
    }
  }
  const made = { notes, resets: resets.map((ticks) => Float64Array.from(ticks).sort()), lanes, sounding: [], shared: new Map<string, Float64Array>() };
  cache.set(song, made);
  return made;
}

/** What sounds on a channel (0–15). Ports are not told apart: what may sound there counts as sounding. */
export function soundingOn(song: Song, channel: number): Sounding {
  const all = channelsIn(song);
  return (all.sounding[channel] ??= soundingOf(all, channel));
}

function soundingOf(all: Channels, channel: number): Sounding {
  const [down, held] = [pedal(all, channel, damper), pedal(all, channel, sostenuto)];
  const { from, to } = all.notes[channel]!;
  const order = Uint32Array.from(from.keys()).sort((a, b) => from[a]! - from[b]!);
  const starts = Float64Array.from(order, (n) => from[n]!);
  const reach = new Float64Array(order.length);
  order.forEach((n, i) => {
    const end = Math.max(heldBy(down, to[n]!), catches(held, from[n]!, to[n]!) ? heldBy(held, to[n]!) : 0);
    reach[i] = Math.max(end, reach[i - 1] ?? 0);
  });
  return { starts, last: reach.at(-1) ?? 0, soundsAt: (tick) => ((i) => i > 0 && reach[i - 1]! > tick)(notAbove(starts, tick)) };
}

/** Where a pedal goes down and up, in order; the up of a pedal that is never released is endless. */
interface Pedal {
  readonly downs: Float64Array;
  readonly ups: Float64Array;
}

function pedal({ lanes }: Channels, channel: number, number: number): Pedal {
  const said = (lanes.get(laneKey(channel, number)) ?? []).flatMap(({ events, lane }) => lane.rows.map((row, n) => ({ tick: events.atTick[row]!, value: lane.values[n]! })));
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
const between = (ticks: Float64Array, from: number, to: number): number => notAbove(ticks, to) - notAbove(ticks, from - 1);

/**
 * The values of a lane in stretches within which each stays in force until the next, as places in `lane.rows`: between two stretches something
 * else changes what the lane says — controllers are reset (121, or a system exclusive message, which may reset all), or another track of the
 * channel speaks. The coarse half of a pair of controllers whose fine half (32 higher) is used sets that to 0 with each message (MIDI 1.0): each
 * stands alone.
 */
export function stretches(song: Song, events: Events, lane: Lane): number[][] {
  const all = channelsIn(song);
  const { channel, what } = lane;
  if (typeof what === 'number' && what < 32 && all.lanes.has(laneKey(channel, what + 32))) return lane.rows.map((_, n) => [n]);
  const resets = all.resets[channel]!;
  const others = sharedTicks(all, laneKey(channel, what));
  const own = others && Float64Array.from(lane.rows, (row) => events.atTick[row]!);
  const found: number[][] = [];
  let before = -Infinity;
  lane.rows.forEach((row, n) => {
    const tick = events.atTick[row]!;
    const broken = between(resets, before, tick) > 0 || (others && between(others, before, tick) > between(own!, before, tick));
    if (n === 0 || broken) found.push([n]);
    else found.at(-1)!.push(n);
    before = tick;
  });
  return found;
}

/** Ticks of a lane that several tracks speak on; undefined where one does. */
function sharedTicks({ lanes, shared }: Channels, key: string): Float64Array | undefined {
  const its = lanes.get(key) ?? [];
  if (its.length < 2) return undefined;
  const known = shared.get(key);
  if (known) return known;
  const ticks = Float64Array.from(its.flatMap(({ events, lane }) => lane.rows.map((row) => events.atTick[row]!))).sort();
  shared.set(key, ticks);
  return ticks;
}
