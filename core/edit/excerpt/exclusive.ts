import { eventAt, SYSEX, SYSEX_PACKET, payloadOf, type EventValue } from '../../smf/events.ts';
import { indexEvents } from '../../song/event-index.ts';
import type { Track } from '../../song/song.ts';
import { toHex } from '../../units/hex.ts';
import { byPort, setsUpAnew } from './in-force.ts';

/**
 * The system exclusive messages that were sent to each port before a tick and still count, as events at
 * tick 0 by the track that is to say them: the first of the port, so that whatever sets an instrument up
 * anew is said before all else. What was sent before that, and what is sent again later, does not count.
 */
export function exclusivesBefore(
  tracks: readonly Track[],
  tick: number,
): ReadonlyMap<string, readonly EventValue[]> {
  const found = new Map<string, EventValue[]>();
  if (tick === 0) return found;
  for (const heard of byPort(tracks).values()) {
    const speaking = heard.filter(
      ({ events: { status } }) => status.includes(SYSEX) || status.includes(SYSEX_PACKET),
    );
    const sent = sentBefore(speaking, tick);
    if (sent.length > 0) found.set(heard[0]!.id, sent);
  }
  return found;
}

/** In packets a message is several events: they count together, by its first. */
function sentBefore(tracks: readonly Track[], tick: number): EventValue[] {
  const columns = tracks.map((t) => t.events);
  const index = indexEvents(
    columns,
    ({ status, atTick }, i) =>
      atTick[i]! < tick && (status[i] === SYSEX || status[i] === SYSEX_PACKET),
  );
  let messages: EventValue[][] = [];
  const open = new Map<number, EventValue[]>();
  for (let n = 0; n < index.count; n++) {
    const [track, row] = [index.track[n]!, index.row[n]!];
    const events = columns[track]!;
    const event = { ...eventAt(events, row), atTick: 0 };
    if (events.status[row] === SYSEX_PACKET) {
      const begun = open.get(track);
      if (begun) begun.push(event);
      else messages.push([event]);
      continue;
    }
    if (setsUpAnew(payloadOf(events, row))) messages = [];
    const message = [event];
    messages.push(message);
    open.set(track, message);
  }
  const last = new Map(messages.map((m, n) => [m.map((e) => toHex(e.payload)).join(' '), n]));
  const counting = new Set(last.values());
  return messages.filter((_, n) => counting.has(n)).flat();
}
