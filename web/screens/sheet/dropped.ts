import type { SongView } from '#contracts/songs.ts';

/**
 * Where tracks go that are dropped on another: all that are selected, if the dragged one is among them.
 * Downwards they stand behind the other, upwards before it; nothing goes before the song's map.
 */
export function dropped(
  song: {
    readonly tracks: readonly Pick<SongView['tracks'][number], 'id'>[];
    readonly mapTrack: boolean;
  },
  selected: ReadonlySet<string>,
  dragged: string,
  over: string,
): { readonly ids: string[]; readonly before: string | null } {
  const order = song.tracks.map((t) => t.id);
  const [from, to] = [order.indexOf(dragged), order.indexOf(over)];
  const ids = selected.has(dragged)
    ? order.filter((id, i) => selected.has(id) && !(song.mapTrack && i === 0))
    : [dragged];
  let target = to > from ? to + 1 : Math.max(to, song.mapTrack ? 1 : 0);
  while (target < order.length && ids.includes(order[target]!)) target++;
  return { ids, before: order[target] ?? null };
}
