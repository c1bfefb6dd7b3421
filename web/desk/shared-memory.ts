import type { Events } from '#core/smf/events.ts';

/**
 * The same events in memory that the page and its workers share, so that handing them over costs nothing
 * however many there are. Where the browser does not allow that, they stay as they are and are copied when
 * they are handed over.
 */
export function inSharedMemory(events: Events): Events {
  if (typeof SharedArrayBuffer === 'undefined') return events;
  const { atTick, status, data1, data2, payload, pool } = events;
  return {
    ...events,
    atTick: shared(atTick),
    status: shared(status),
    data1: shared(data1),
    data2: shared(data2),
    payload: shared(payload),
    pool: { ...pool, bytes: shared(pool.bytes), start: shared(pool.start), end: shared(pool.end) },
  };
}

function shared<T extends Float64Array | Uint32Array | Uint8Array>(column: T): T {
  const Column = column.constructor as new (buffer: SharedArrayBuffer) => T;
  const copy = new Column(new SharedArrayBuffer(column.byteLength));
  copy.set(column as never);
  return copy;
}
