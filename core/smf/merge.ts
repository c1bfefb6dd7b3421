import { concatBytes } from './chunks.ts';
import { META, endTick, meta, metaEvent, type Events, type PayloadPool } from './events.ts';
import { EventBuilder, packEvents, withOwnPool } from './event-builder.ts';

/**
 * Several tracks as one, by tick; on one tick the order of the tracks, within a track its own order.
 * One end of track stands last, at the latest of theirs.
 */
export function mergeEvents(tracks: readonly Events[]): Events {
  if (tracks.length === 0) return packEvents([metaEvent(0, meta.endOfTrack)]);
  if (tracks.length === 1) return tracks[0]!;
  const middle = tracks.length >> 1;
  return mergeTwo(mergeEvents(tracks.slice(0, middle)), mergeEvents(tracks.slice(middle)));
}

function mergeTwo(one: Events, other: Events): Events {
  const [a, b] = [withOwnPool(one), withOwnPool(other)];
  const { pool, shift } = joinPools(a.pool, b.pool);
  const out = new EventBuilder(a.count + b.count);
  const last = Math.max(endTick(a), endTick(b));
  const aCount = a.count - 1;
  const bCount = b.count - 1;
  for (let i = 0, j = 0; i < aCount || j < bCount;) {
    const fromA = j >= bCount || (i < aCount && a.atTick[i]! <= b.atTick[j]!);
    const e = fromA ? a : b;
    const n = fromA ? i++ : j++;
    out.add(e.atTick[n]!, e.status[n]!, e.data1[n]!, e.data2[n]!);
    const payload = e.payload[n]!;
    if (payload !== 0) out.payload[out.count - 1] = fromA ? payload : payload + shift;
  }
  out.add(last, META, meta.endOfTrack, 0);
  return { ...out.finish(pool.bytes), pool };
}

/** Both pools in one; payloads of the second move up by `shift`. */
function joinPools(a: PayloadPool, b: PayloadPool): { pool: PayloadPool; shift: number } {
  const shift = a.start.length - 1;
  const offset = a.bytes.length;
  const start = new Uint32Array(a.start.length + b.start.length - 1);
  const end = new Uint32Array(start.length);
  start.set(a.start);
  end.set(a.end);
  for (let n = 1; n < b.start.length; n++) {
    start[n + shift] = b.start[n]! + offset;
    end[n + shift] = b.end[n]! + offset;
  }
  return { pool: { bytes: concatBytes([a.bytes, b.bytes]), start, end }, shift };
}
