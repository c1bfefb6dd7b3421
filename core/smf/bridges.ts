import { META, meta, payloadOf, type Events, type EventValue, metaEvent } from './events.ts';
import { sameBytes } from './chunks.ts';
import { EventBuilder, withOwnPool } from './event-builder.ts';
import { encodeText } from './text.ts';
import { largestQuantity } from './variable-length.ts';

/**
 * A time between two events has 28 bits (SMF 1.0). Where a track waits longer, events that say nothing
 * bridge the gap: sequencer-specific metas under the identifier for uses without a maker (7D, MIDI 1.0),
 * with words that anybody can read in a dump. They are known again by them, and taken out where the gap has
 * closed.
 */
const payload = Uint8Array.of(0x7d, ...encodeText('satchel waits'));

export const bridgeEvent = (atTick: number): EventValue =>
  metaEvent(atTick, meta.sequencerSpecific, payload);

export const isBridge = (events: Events, i: number): boolean =>
  events.status[i] === META &&
  events.data1[i] === meta.sequencerSpecific &&
  sameBytes(payloadOf(events, i), payload);

/**
 * More in one track are not written: it would wait for 2.7 million million ticks, half a century at 960 PPQ
 * and 120 BPM.
 */
export const mostBridges = 10_000;

export interface Bridged {
  readonly events: Events;
  readonly bridges: number;
}

/**
 * The events with every gap bridged and no bridge where there is none: the same object where that is so
 * already. `too far` where a tick cannot be held exactly (beyond 2⁵³ − 1), `too long` where a track would
 * need more than {@link mostBridges}.
 */
export function bridged(events: Events): Bridged | 'too far' | 'too long' {
  const { count, atTick } = events;
  if (!Number.isSafeInteger(atTick[count - 1] ?? 0)) return 'too far';
  let had = 0;
  let wanted = 0;
  let right = true;
  for (let i = 0, before = 0; i < count; i++) {
    if (isBridge(events, i)) {
      had++;
      continue;
    }
    const needed = gapBridges(before, atTick[i]!);
    if (needed > 0 || had > 0) right &&= standBefore(events, i, before, needed);
    wanted += needed;
    before = atTick[i]!;
  }
  if (wanted > mostBridges) return 'too long';
  if (had === wanted && right) return { events, bridges: wanted };
  return { events: rebuilt(events, wanted - had), bridges: wanted };
}

export function countBridges(events: Events): number {
  let n = 0;
  for (let i = 0; i < events.count; i++) if (isBridge(events, i)) n++;
  return n;
}

/**
 * {@link bridged} where it is known that ticks are exact and gaps can be bridged, since they were before an
 * edit that only closes gaps or opens small ones.
 */
export function bridgedAgain(events: Events): Events {
  const made = bridged(events);
  if (typeof made === 'string') throw new RangeError(`A track reaches ${made}`);
  return made.events;
}

/** Bridges that a wait from one tick to another needs: one after every 2²⁸ − 1 ticks, none on the last. */
const gapBridges = (from: number, to: number): number =>
  Math.max(0, Math.ceil((to - from) / largestQuantity) - 1);

/** Whether exactly the bridges that are needed stand before row `i`, where they belong. */
function standBefore(events: Events, i: number, from: number, needed: number): boolean {
  for (let n = 1; n <= needed; n++) {
    const row = i - needed + n - 1;
    if (row < 0 || events.atTick[row] !== from + n * largestQuantity || !isBridge(events, row))
      return false;
  }
  return i === needed || !isBridge(events, i - needed - 1);
}

function rebuilt(whole: Events, more: number): Events {
  const events = withOwnPool(whole);
  const { pool } = events;
  const at = pool.bytes.length;
  const bytes = new Uint8Array(at + payload.length);
  bytes.set(pool.bytes);
  bytes.set(payload, at);
  const out = new EventBuilder(events.count + Math.max(0, more));
  let before = 0;
  for (let i = 0; i < events.count; i++) {
    if (isBridge(events, i)) continue;
    const tick = events.atTick[i]!;
    for (let n = gapBridges(before, tick); n > 0; n--)
      out.addWithPayload(
        (before += largestQuantity),
        META,
        meta.sequencerSpecific,
        at,
        bytes.length,
      );
    const p = events.payload[i]!;
    if (p === 0) out.add(tick, events.status[i]!, events.data1[i]!, events.data2[i]!);
    else
      out.addWithPayload(tick, events.status[i]!, events.data1[i]!, pool.start[p]!, pool.end[p]!);
    before = tick;
  }
  return out.finish(bytes);
}
