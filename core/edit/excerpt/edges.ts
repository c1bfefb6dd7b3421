import { eventsFrom } from '../../smf/event-builder.ts';
import { channelEvent, endTick, eventAt, type Events, type EventValue } from '../../smf/events.ts';
import { mergeEvents } from '../../smf/merge.ts';
import { notesOf } from '../../song/notes.ts';
import type { TickSpan } from '../../song/scope.ts';

/**
 * What becomes of notes that ring over the end of a part: they ring on; they end with it; they end with it
 * and are struck again where the next begins.
 */
export type Ends = 'ring' | 'cut' | 'again';

/**
 * A part whose notes have ends: those that ring over `length` as `ends` says, those that hang with the
 * part. Of a part without an end nothing changes.
 */
export function edged(events: Events, length: number, ends: Ends): Events {
  if (length === Infinity) return events;
  const cut =
    ends === 'ring' ? events : { ...events, atTick: events.atTick.map((t) => Math.min(t, length)) };
  const hanging = offsOfHanging(cut, ends === 'ring' ? Math.max(length, endTick(cut)) : length);
  return hanging.length === 0 ? cut : mergeEvents([cut, eventsFrom(hanging)]);
}

function offsOfHanging(events: Events, at: number): EventValue[] {
  const { on, off, count } = notesOf(events);
  const offs: EventValue[] = [];
  for (let n = 0; n < count; n++) {
    const row = on[n]!;
    if (off[n] === -1)
      offs.push(channelEvent(at, 0x80 | (events.status[row]! & 15), events.data1[row]!, 64));
  }
  return offs;
}

/**
 * The notes that sound as a part begins, struck on its first tick, and their ends: but for those whose key
 * is struck there anyway. A note that hangs, and has no end anywhere, is not struck again.
 */
export function struckAgain(
  events: Events,
  { from, to }: TickSpan,
): { ons: EventValue[]; offs: EventValue[] } | undefined {
  const { atTick, status, data1 } = events;
  const notes = notesOf(events);
  const struck = new Set<number>();
  const keyOf = (row: number): number => ((status[row]! & 15) << 7) | data1[row]!;
  for (let n = 0; n < notes.count; n++)
    if (atTick[notes.on[n]!] === from) struck.add(keyOf(notes.on[n]!));
  const ons: EventValue[] = [];
  const offs: EventValue[] = [];
  for (let n = 0; n < notes.count; n++) {
    const [on, off] = [notes.on[n]!, notes.off[n]!];
    if (off === -1 || atTick[on]! >= from || atTick[off]! <= from || struck.has(keyOf(on)))
      continue;
    struck.add(keyOf(on));
    ons.push({ ...eventAt(events, on), atTick: 0 });
    offs.push({ ...eventAt(events, off), atTick: Math.min(to, atTick[off]!) - from });
  }
  return ons.length === 0 ? undefined : { ons, offs };
}
