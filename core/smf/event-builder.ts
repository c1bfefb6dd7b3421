import { concatBytes } from './chunks.ts';
import { META, meta, noBytes, type Events, type EventValue, type PayloadPool } from './events.ts';

/** Columns that grow while events are added; `finish` trims them to size. */
export class EventBuilder {
  count = 0;
  atTick: Float64Array;
  status: Uint8Array;
  data1: Uint8Array;
  data2: Uint8Array;
  payload: Uint32Array;
  private payloads = 1;
  private start: Uint32Array = new Uint32Array(8);
  private end: Uint32Array = new Uint32Array(8);

  constructor(capacity: number) {
    const room = Math.max(16, Math.ceil(capacity));
    this.atTick = new Float64Array(room);
    this.status = new Uint8Array(room);
    this.data1 = new Uint8Array(room);
    this.data2 = new Uint8Array(room);
    this.payload = new Uint32Array(room);
  }

  grow(): void {
    const room = Math.ceil(this.status.length * 1.6);
    this.atTick = grown(new Float64Array(room), this.atTick);
    this.status = grown(new Uint8Array(room), this.status);
    this.data1 = grown(new Uint8Array(room), this.data1);
    this.data2 = grown(new Uint8Array(room), this.data2);
    this.payload = grown(new Uint32Array(room), this.payload);
  }

  add(atTick: number, status: number, data1: number, data2: number): void {
    if (this.count === this.status.length) this.grow();
    const n = this.count++;
    this.atTick[n] = atTick;
    this.status[n] = status;
    this.data1[n] = data1;
    this.data2[n] = data2;
  }

  /** Adds an event whose payload is `pool.bytes[start … end - 1]` of the bytes given to `finish`. */
  addWithPayload(atTick: number, status: number, data1: number, start: number, end: number): void {
    this.add(atTick, status, data1, 0);
    if (start === end) return;
    if (this.payloads === this.start.length) {
      this.start = grown(new Uint32Array(this.payloads * 2), this.start);
      this.end = grown(new Uint32Array(this.payloads * 2), this.end);
    }
    this.start[this.payloads] = start;
    this.end[this.payloads] = end;
    this.payload[this.count - 1] = this.payloads++;
  }

  finish(bytes: Uint8Array): Events {
    const { count, payloads } = this;
    return {
      count,
      atTick: trimmed(this.atTick, count),
      status: trimmed(this.status, count),
      data1: trimmed(this.data1, count),
      data2: trimmed(this.data2, count),
      payload: trimmed(this.payload, count),
      pool: { bytes, start: this.start.slice(0, payloads), end: this.end.slice(0, payloads) },
    };
  }
}

/** Cut to size: in place where little room is wasted, since copying costs as much as reading. */
function trimmed<T extends Float64Array | Uint32Array | Uint8Array>(column: T, count: number): T {
  return (count > column.length * 0.6 ? column.subarray(0, count) : column.slice(0, count)) as T;
}

function grown<T extends Float64Array | Uint8Array | Uint32Array>(room: T, old: T): T {
  room.set(old as never);
  return room;
}

/** Builds columns from events in any order: sorted by tick (order on a tick kept), with one end of track last. */
export function eventsFrom(values: Iterable<EventValue>): Events {
  const all = [...values];
  const ends = all.filter((e) => e.status === META && e.data1 === meta.endOfTrack);
  const sorted = all
    .filter((e) => e.status !== META || e.data1 !== meta.endOfTrack)
    .sort((a, b) => a.atTick - b.atTick);
  const last = ends.reduce((latest, e) => Math.max(latest, e.atTick), sorted.at(-1)?.atTick ?? 0);
  return packEvents([
    ...sorted,
    { atTick: last, status: META, data1: meta.endOfTrack, data2: 0, payload: noBytes },
  ]);
}

/** Columns from events that are in order already, an end of track last. */
export function packEvents(values: readonly EventValue[]): Events {
  const bytes = new Uint8Array(values.reduce((sum, e) => sum + e.payload.length, 0));
  const builder = new EventBuilder(values.length);
  let at = 0;
  for (const e of values) {
    if (e.payload.length === 0) {
      builder.add(e.atTick, e.status, e.data1, e.data2);
      continue;
    }
    bytes.set(e.payload, at);
    builder.addWithPayload(e.atTick, e.status, e.data1, at, (at += e.payload.length));
  }
  return builder.finish(bytes);
}

/** The rows `indices` of `events` in that order; payload bytes stay shared. */
export function pickEvents(events: Events, indices: ArrayLike<number>): Events {
  const count = indices.length;
  const picked = {
    count,
    atTick: new Float64Array(count),
    status: new Uint8Array(count),
    data1: new Uint8Array(count),
    data2: new Uint8Array(count),
    payload: new Uint32Array(count),
    pool: events.pool,
  };
  for (let n = 0; n < count; n++) {
    const i = indices[n]!;
    picked.atTick[n] = events.atTick[i]!;
    picked.status[n] = events.status[i]!;
    picked.data1[n] = events.data1[i]!;
    picked.data2[n] = events.data2[i]!;
    picked.payload[n] = events.payload[i]!;
  }
  return picked;
}

/** The same events with the payload of row `index` replaced; columns other than the payloads stay shared. */
export const withPayload = (events: Events, index: number, bytes: Uint8Array): Events =>
  withPayloads(events, [index], bytes);

/** The same events with the payloads of some rows replaced by the same bytes. */
export function withPayloads(events: Events, rows: readonly number[], bytes: Uint8Array): Events {
  if (rows.length === 0) return events;
  const payload = events.payload.slice();
  for (const row of rows) payload[row] = 0;
  const pool = compacted(events.pool, payload, bytes);
  if (bytes.length > 0) for (const row of rows) payload[row] = pool.start.length - 1;
  return { ...events, payload, pool };
}

/**
 * The same events with a pool of only their own payloads. Tracks of one file share its bytes, parts of a
 * split track its whole pool: before such pools are copied they are brought down to what is used.
 */
export function withOwnPool(events: Events): Events {
  const { pool, count } = events;
  let [used, bytes] = [0, 0];
  for (let i = 0; i < count; i++) {
    const n = events.payload[i]!;
    if (n === 0) continue;
    used++;
    bytes += pool.end[n]! - pool.start[n]!;
  }
  if (pool.bytes.length <= bytes * 2 + 64 && pool.start.length <= used * 2 + 8) return events;
  const payload = events.payload.slice();
  return { ...events, payload, pool: compacted(pool, payload, noBytes) };
}

/** A pool of the payloads that `payload` names and of `added` as the last; `payload` is numbered anew, in place. */
function compacted(old: PayloadPool, payload: Uint32Array, added: Uint8Array): PayloadPool {
  const used: Uint8Array[] = [noBytes];
  for (let i = 0; i < payload.length; i++) {
    const n = payload[i]!;
    if (n === 0) continue;
    payload[i] = used.length;
    used.push(old.bytes.subarray(old.start[n], old.end[n]));
  }
  if (added.length > 0) used.push(added);
  const start = new Uint32Array(used.length);
  const end = new Uint32Array(used.length);
  let at = 0;
  used.forEach((b, n) => {
    start[n] = at;
    end[n] = at += b.length;
  });
  return { bytes: concatBytes(used), start, end };
}

/** The same events with `value` inserted before row `index`. */
export function withInserted(events: Events, index: number, value: EventValue): Events {
  const inserted = {
    count: events.count + 1,
    atTick: spread(new Float64Array(events.count + 1), events.atTick, index, value.atTick),
    status: spread(new Uint8Array(events.count + 1), events.status, index, value.status),
    data1: spread(new Uint8Array(events.count + 1), events.data1, index, value.data1),
    data2: spread(new Uint8Array(events.count + 1), events.data2, index, value.data2),
    payload: spread(new Uint32Array(events.count + 1), events.payload, index, 0),
    pool: events.pool,
  };
  return value.payload.length > 0 ? withPayload(inserted, index, value.payload) : inserted;
}

function spread<T extends Float64Array | Uint8Array | Uint32Array>(
  room: T,
  old: T,
  index: number,
  value: number,
): T {
  room.set(old.subarray(0, index) as never);
  room[index] = value;
  room.set(old.subarray(index) as never, index + 1);
  return room;
}
