import { bridgedAgain } from '../smf/bridges.ts';
import { EventBuilder, withOwnPool } from '../smf/event-builder.ts';
import { META, payloadOf, type Events } from '../smf/events.ts';
import { mendedPayload, wrongLength } from '../smf/meta-lengths.ts';
import type { SmfTrack } from '../smf/smf.ts';

/**
 * Tracks as they can be sent: meta events of a wrong length, over which other readers stumble, have the
 * right one; those that say nothing are left out. Tracks without such events are the same objects, their
 * bytes their very bytes.
 */
export function withMendedMetas(tracks: readonly SmfTrack[]): {
  tracks: readonly SmfTrack[];
  notes: string[];
} {
  const notes: string[] = [];
  const mended = tracks.map((track, place) => {
    const wrong = wrongRows(track.events);
    if (wrong === 0) return track;
    notes.push(
      `Track ${place + 1}: ${wrong === 1 ? 'a meta event' : `${wrong.toLocaleString('en')} meta events`} of a wrong length ${wrong === 1 ? 'was' : 'were'} mended.`,
    );
    return { events: mendedEvents(track.events) };
  });
  return { tracks: mended, notes };
}

const isWrong = (events: Events, i: number): boolean => {
  if (events.status[i] !== META) return false;
  const n = events.payload[i]!;
  return (
    wrongLength(events.data1[i]!, n === 0 ? 0 : events.pool.end[n]! - events.pool.start[n]!) !==
    undefined
  );
};

function wrongRows(events: Events): number {
  let wrong = 0;
  for (let i = 0; i < events.count; i++) if (isWrong(events, i)) wrong++;
  return wrong;
}

function mendedEvents(whole: Events): Events {
  const events = withOwnPool(whole);
  const { pool } = events;
  const extra: number[] = [];
  const base = pool.bytes.length;
  const rows: { row: number; start: number; end: number }[] = [];
  for (let i = 0; i < events.count; i++) {
    if (!isWrong(events, i)) continue;
    const payload = mendedPayload(events.data1[i]!, payloadOf(events, i));
    if (payload)
      rows.push({ row: i, start: base + extra.length, end: base + extra.push(...payload) });
    else rows.push({ row: i, start: -1, end: -1 });
  }
  const bytes = new Uint8Array(base + extra.length);
  bytes.set(pool.bytes);
  bytes.set(extra, base);
  const out = new EventBuilder(events.count);
  for (let i = 0, next = 0; i < events.count; i++) {
    const mended = rows[next]?.row === i ? rows[next++] : undefined;
    if (mended?.start === -1) continue;
    const n = events.payload[i]!;
    if (mended)
      out.addWithPayload(events.atTick[i]!, META, events.data1[i]!, mended.start, mended.end);
    else if (n === 0)
      out.add(events.atTick[i]!, events.status[i]!, events.data1[i]!, events.data2[i]!);
    else
      out.addWithPayload(
        events.atTick[i]!,
        events.status[i]!,
        events.data1[i]!,
        pool.start[n]!,
        pool.end[n]!,
      );
  }
  return bridgedAgain(out.finish(bytes));
}
