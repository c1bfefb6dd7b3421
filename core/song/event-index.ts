import type { Events } from '../smf/events.ts';

/**
 * Rows of several tracks in the order they sound: `track[n]` and `row[n]` name the n-th. On one tick the
 * order of the tracks.
 */
export interface EventIndex {
  readonly count: number;
  readonly track: Uint32Array;
  readonly row: Uint32Array;
}

/** The rows that `keep` lets through, in order. Linear in the events, whatever their number. */
export function indexEvents(
  tracks: readonly Events[],
  keep: (events: Events, row: number) => boolean,
): EventIndex {
  if (tracks.length === 0) return { count: 0, track: new Uint32Array(0), row: new Uint32Array(0) };
  return merged(
    tracks.map((events, t) => kept(events, t, keep)),
    tracks,
  );
}

function kept(
  events: Events,
  t: number,
  keep: (events: Events, row: number) => boolean,
): EventIndex {
  const row = new Uint32Array(events.count);
  let count = 0;
  for (let i = 0; i < events.count; i++) if (keep(events, i)) row[count++] = i;
  return { count, track: new Uint32Array(count).fill(t), row: row.slice(0, count) };
}

/** Two halves at a time, so that each row moves as often as the number of tracks can be halved. */
function merged(parts: readonly EventIndex[], tracks: readonly Events[]): EventIndex {
  if (parts.length === 1) return parts[0]!;
  const middle = parts.length >> 1;
  const a = merged(parts.slice(0, middle), tracks);
  const b = merged(parts.slice(middle), tracks);
  const count = a.count + b.count;
  const track = new Uint32Array(count);
  const row = new Uint32Array(count);
  for (let i = 0, j = 0, n = 0; n < count; n++) {
    const fromA =
      j === b.count ||
      (i < a.count &&
        tracks[a.track[i]!]!.atTick[a.row[i]!]! <= tracks[b.track[j]!]!.atTick[b.row[j]!]!);
    const from = fromA ? a : b;
    const at = fromA ? i++ : j++;
    track[n] = from.track[at]!;
    row[n] = from.row[at]!;
  }
  return { count, track, row };
}
