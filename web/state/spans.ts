import type { TrackView } from '#contracts/songs.ts';
import { asSpans } from '#core/song/changed-rows.ts';
import type { EventIndex } from '#core/song/event-index.ts';

/** The chosen rows of a list as spans of each track's own rows: what `events.delete` takes. */
export function spansOf(
  chosen: Iterable<number>,
  index: EventIndex,
  tracks: readonly TrackView[],
): Record<string, [number, number][]> {
  const rows = new Map<string, number[]>();
  for (const n of chosen) {
    const id = tracks[index.track[n]!]!.id;
    const list = rows.get(id);
    if (list) list.push(index.row[n]!);
    else rows.set(id, [index.row[n]!]);
  }
  return Object.fromEntries(
    [...rows].map(([id, list]) => [id, asSpans(list.sort((a, b) => a - b))]),
  );
}
