import { isBridge } from '../../smf/bridges.ts';
import { META, meta, payloadOf, type Events } from '../../smf/events.ts';
import type { Smf, SmfTrack } from '../../smf/smf.ts';
import { wrongLength } from '../../smf/meta-lengths.ts';

/**
 * What laying out changes: names of tracks that become one, prefixes, what bridges gaps, ends of tracks,
 * and metas of a wrong length.
 */
const laidAnew: ReadonlySet<number> = new Set([
  meta.trackName,
  meta.instrumentName,
  meta.text,
  meta.channelPrefix,
  meta.endOfTrack,
]);

/**
 * Whether a file holds the same events as the tracks it was laid out from: by count and two sums over all
 * that they say, whatever their order. No memory an event.
 */
export function laidOutRight(tracks: readonly SmfTrack[], laid: Smf): string[] {
  const mended = typesOfWrongLength(tracks);
  const [before, after] = [sumsOf(tracks, mended), sumsOf(laid.tracks, mended)];
  return before.every((n, i) => n === after[i])
    ? []
    : [`${after[0]} events that were ${before[0]} before they were laid out`];
}

type Sums = [count: number, one: number, other: number];

function sumsOf(tracks: readonly SmfTrack[], mended: ReadonlySet<number>): Sums {
  const sums: Sums = [0, 0, 0];
  for (const { events } of tracks)
    for (let i = 0; i < events.count; i++) if (isHeld(events, i, mended)) addTo(sums, events, i);
  return sums;
}

const isHeld = (events: Events, i: number, mended: ReadonlySet<number>): boolean =>
  events.status[i] !== META ||
  !(laidAnew.has(events.data1[i]!) || mended.has(events.data1[i]!) || isBridge(events, i));

function typesOfWrongLength(tracks: readonly SmfTrack[]): Set<number> {
  const types = new Set<number>();
  for (const { events } of tracks)
    for (let i = 0; i < events.count; i++) {
      if (events.status[i] !== META) continue;
      const n = events.payload[i]!;
      const length = n === 0 ? 0 : events.pool.end[n]! - events.pool.start[n]!;
      if (wrongLength(events.data1[i]!, length) !== undefined) types.add(events.data1[i]!);
    }
  return types;
}

function addTo(sums: Sums, events: Events, i: number): void {
  const tick = events.atTick[i]!;
  let one = mixed(tick % 0x100000000, Math.floor(tick / 0x100000000));
  one = mixed(one, (events.status[i]! << 16) | (events.data1[i]! << 8) | events.data2[i]!);
  if (events.payload[i] !== 0) for (const byte of payloadOf(events, i)) one = mixed(one, byte);
  sums[0]++;
  sums[1] = (sums[1] + one) >>> 0;
  sums[2] = (sums[2] + mixed(one, 0x9e3779b9)) >>> 0;
}

/** A step of a 32-bit hash (FNV-like, with a multiplication and a shift). */
function mixed(hash: number, value: number): number {
  const h = Math.imul(hash ^ value, 0x01000193);
  return (h ^ (h >>> 15)) >>> 0;
}
