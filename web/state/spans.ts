import type { TrackView } from '#contracts/songs.ts';
import type { EventIndex } from '#core/song/event-index.ts';

/** The chosen rows of a list as spans of each track's own rows: what `events.delete` takes. */
export function spansOf(
  chosen: ReadonlySet<number>,
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
  return Object.fromEntries([...rows].map(([id, list]) => [id, spans(list.sort((a, b) => a - b))]));
}

function spans(rows: readonly number[]): [number, number][] {
  const found: [number, number][] = [];
  for (const row of rows) {
    const last = found.at(-1);
    if (last && last[1] === row - 1) last[1] = row;
    else found.push([row, row]);
  }
  return found;
}
