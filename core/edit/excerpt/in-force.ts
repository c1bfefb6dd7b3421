import { channelEvent, SYSEX, payloadOf, type Events, type EventValue } from '../../smf/events.ts';
import { isSwitch, parkedRows } from '../../song/lanes.ts';
import { portOf } from '../../song/ports.ts';
import { indexEvents } from '../../song/event-index.ts';
import type { Track } from '../../song/song.ts';
import { factsOf } from '../../song/track-facts.ts';
import { ChannelState } from './channel-state.ts';

/**
 * The messages that are in force on each channel at a tick, as events at tick 0 by the track that is to say
 * them: the first on the channel that one of `homes` lets, which are asked in their order. What stands on
 * the tick itself, before the first note there, is not said again. Tracks of one port share its channels,
 * and count in the order in which they sound.
 */
export function inForceAt(
  tracks: readonly Track[],
  tick: number,
  homes: readonly ((track: Track) => boolean)[],
): ReadonlyMap<string, readonly EventValue[]> {
  const found = new Map<string, EventValue[]>();
  if (tick === 0) return found;
  for (const heard of byPort(tracks).values())
    for (const [channel, state] of statesOf(heard, tick)) {
      // The first of the channel's tracks speaks before whatever else stands on the tick.
      const on = heard.filter((t) => plays(t, channel));
      const home = homes.map((may) => on.find(may)).find((t) => t !== undefined);
      if (!home) continue;
      const said = state.inForce().map(({ track, row }) => {
        const { status, data1, data2 } = heard[track]!.events;
        return channelEvent(0, status[row]!, data1[row]!, data2[row]);
      });
      found.set(home.id, [...(found.get(home.id) ?? []), ...said]);
    }
  return found;
}

/**
 * Whether a message says what an instrument is at when it is switched on, whatever it is: nothing bent,
 * pressed or held.
 */
export function isAtRest({ status, data1, data2 }: EventValue): boolean {
  const kind = status >> 4;
  if (kind === 0xe) return data1 === 0 && data2 === 64;
  if (kind === 0xd) return data1 === 0;
  if (kind !== 0xb) return false;
  return (data1 === 1 && data2 === 0) || (isSwitch(data1) && data2 < 64);
}

export function byPort(tracks: readonly Track[]): Map<number, Track[]> {
  const ports = new Map<number, Track[]>();
  for (const track of tracks) {
    const port = portOf(track.events);
    ports.set(port, [...(ports.get(port) ?? []), track]);
  }
  return ports;
}

const plays = (track: Track, channel: number): boolean =>
  (factsOf(track).channels & (1 << channel)) !== 0;

function statesOf(tracks: readonly Track[], tick: number): Map<number, ChannelState> {
  const parked = tracks.map(parkedRows);
  const columns = tracks.map((t) => t.events);
  const index = indexEvents(columns, (events, i) => counts(events, i, tick));
  const states = new Map<number, ChannelState>();
  /** Channels on which a note has begun on the tick itself. */
  const sounds = new Set<number>();
  for (let n = 0; n < index.count; n++) {
    const [track, row] = [index.track[n]!, index.row[n]!];
    const { status, data1, data2, atTick } = columns[track]!;
    const is = status[row]!;
    const stands = atTick[row] === tick;
    if (is === SYSEX) {
      if (!stands && setsUpAnew(payloadOf(columns[track]!, row))) states.clear();
      continue;
    }
    const channel = is & 15;
    if (is >> 4 === 9) sounds.add(channel);
    if (is >> 4 === 9 || parked[track]!(row) || (stands && sounds.has(channel))) continue;
    const state = states.get(channel) ?? new ChannelState();
    states.set(channel, state);
    state.say(is, { track, row, data1: data1[row]!, data2: data2[row]!, stands });
  }
  return states;
}

/**
 * Whether a row says something that stays in force; on the tick itself also notes, since what follows them
 * comes too late.
 */
function counts({ status, data2, atTick }: Events, i: number, tick: number): boolean {
  if (atTick[i]! > tick) return false;
  const is = status[i]!;
  const kind = is >> 4;
  if (kind === 9) return atTick[i] === tick && data2[i] !== 0;
  return kind === 0xb || kind === 0xc || kind === 0xd || kind === 0xe || is === SYSEX;
}

/**
 * Whether a system exclusive message sets an instrument up anew, so that nothing said before counts:
 * General MIDI on or off (universal non-real-time 09, MIDI 1.0), and the resets of two makers that are sent
 * for it (common practice).
 */
export function setsUpAnew(payload: Uint8Array): boolean {
  const [maker, , a, b] = payload;
  if (maker === 0x7e) return a === 0x09 && b! >= 1 && b! <= 3;
  const rest = [...payload.subarray(2)].join();
  if (maker === 0x41) return rest.startsWith('66,18,64,0,127,0');
  return maker === 0x43 && rest.startsWith('76,0,0,126,0');
}
