import { payloadOf, type Events } from '../../../smf/events.ts';
import { Channel } from './channel.ts';
import { kindOf, type EventKind } from './event-kind.ts';

/** An event as it is heard: where it stands, and its channel counted over all ports. */
export interface HeardEvent {
  readonly track: number;
  readonly row: number;
  readonly kind: EventKind;
  readonly atTick: number;
  readonly status: number;
  readonly data1: number;
  readonly data2: number;
  /** Port × 16 + channel; -1 of what is not on a channel. */
  readonly place: number;
}

/**
 * Goes through the channel and system exclusive messages of tracks as they are heard: by tick, on one tick
 * by track. Each comes with what its channel has in force then: all that was said before it.
 *
 * @param ports of each track, which port it plays on
 * @param unsentFrom where system exclusive messages stay here: from this tick on they set nothing up, and what
 *   they set up before it is not known by the receiver
 */
export function hear(
  tracks: readonly Events[],
  ports: readonly number[],
  each: (event: HeardEvent, channel: Channel | undefined) => void,
  unsentFrom?: number,
): void {
  const channels = new Map<number, Channel>();
  for (const { track, row } of inHearingOrder(tracks)) {
    const events = tracks[track]!;
    const status = events.status[row]!;
    const kind = kindOf(events, row);
    if (status === 0xff) continue;
    const port = ports[track]!;
    const place = status < 0xf0 ? port * 16 + (status & 15) : -1;
    if (place >= 0 && !channels.has(place)) channels.set(place, new Channel());
    const channel = channels.get(place);
    const [data1, data2] = [events.data1[row]!, events.data2[row]!];
    each({ track, row, kind, atTick: events.atTick[row]!, status, data1, data2, place }, channel);
    if (status === 0xf0 && setsUpInstrument(payloadOf(events, row))) {
      if (events.atTick[row]! >= (unsentFrom ?? Infinity)) continue;
      const isSetUp = unsentFrom === undefined;
      for (let n = 0; n < 16; n++) channels.set(port * 16 + n, new Channel({ isSetUp }));
    } else if (status >= 0xb0) channel?.hear(status, data1, data2);
  }
}

/**
 * Whether a system exclusive message sets an instrument up from nothing: General MIDI on, off and 2 (7E id
 * 09 01 to 03, MIDI 1.0), and the two resets of makers that are sent for it (common practice).
 */
function setsUpInstrument(payload: Uint8Array): boolean {
  const isAt = (at: number, ...bytes: number[]): boolean =>
    bytes.every((byte, n) => payload[at + n] === byte);
  if (payload[0] === 0x7e) return isAt(2, 9) && [1, 2, 3].includes(payload[3] ?? 0);
  return (
    (payload[0] === 0x41 && isAt(2, 0x42, 0x12, 0x40, 0, 0x7f, 0)) ||
    (payload[0] === 0x43 && isAt(2, 0x4c, 0, 0, 0x7e, 0))
  );
}

/** Rows of all tracks by tick, on one tick by track: a heap of the tracks by their next event. */
export function* inHearingOrder(
  tracks: readonly Events[],
): Generator<{ track: number; row: number }> {
  const next = tracks.map(() => 0);
  const heap = tracks.flatMap((events, track) => (events.count > 0 ? [track] : []));
  const tick = (track: number): number => tracks[track]!.atTick[next[track]!]!;
  const isBefore = (a: number, b: number): boolean => {
    const [one, other] = [tick(a), tick(b)];
    return one < other || (one === other && a < b);
  };
  const sink = (from: number): void => {
    for (let at = from; ;) {
      let least = at;
      for (const child of [2 * at + 1, 2 * at + 2])
        if (child < heap.length && isBefore(heap[child]!, heap[least]!)) least = child;
      if (least === at) return;
      [heap[at], heap[least]] = [heap[least]!, heap[at]!];
      at = least;
    }
  };
  for (let at = heap.length >> 1; at >= 0; at--) sink(at);
  while (heap.length > 0) {
    const track = heap[0]!;
    yield { track, row: next[track]! };
    next[track]!++;
    if (next[track]! === tracks[track]!.count) {
      const last = heap.pop()!;
      if (heap.length === 0) return;
      if (last !== track) heap[0] = last;
    }
    sink(0);
  }
}
