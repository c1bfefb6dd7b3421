import type { NoteTable } from '#core/song/note-table.ts';

/**
 * Where notes sound, coarser and coarser: `levels[0]` has `cells` cells for each key over the whole song,
 * each level after it half as many. A cell holds the greatest velocity that sounds in it. Drawn where notes
 * are too many to be drawn one by one.
 */
export interface Density {
  readonly endTick: number;
  readonly cells: number;
  readonly levels: readonly Uint8Array[];
}

const finest = 1 << 16;
const coarsest = 1 << 9;

export function densityOf({ count, from, to, key, velocity }: NoteTable, endTick: number): Density {
  const end = Math.max(1, endTick);
  const base = new Uint8Array(128 * finest);
  for (let n = 0; n < count; n++) {
    const row = key[n]! * finest;
    const first = Math.min(finest - 1, Math.floor((from[n]! / end) * finest));
    const last = Math.min(finest - 1, Math.max(first, Math.ceil((to[n]! / end) * finest) - 1));
    const v = velocity[n]!;
    for (let cell = first; cell <= last; cell++) if (base[row + cell]! < v) base[row + cell] = v;
  }
  const levels: Uint8Array[] = [base];
  for (let cells = finest / 2; cells >= coarsest; cells /= 2)
    levels.push(halved(levels.at(-1)!, cells));
  return { endTick: end, cells: finest, levels };
}

function halved(fine: Uint8Array, cells: number): Uint8Array {
  const coarse = new Uint8Array(128 * cells);
  for (let i = 0; i < coarse.length; i++) coarse[i] = Math.max(fine[2 * i]!, fine[2 * i + 1]!);
  return coarse;
}

/** The coarsest level whose cells are no wider than a column of `ticksPerColumn` ticks. */
export function levelFor(
  { endTick, cells, levels }: Density,
  ticksPerColumn: number,
): { level: Uint8Array; cells: number } {
  const wanted = Math.floor(Math.log2((ticksPerColumn * cells) / endTick));
  const n = Math.min(levels.length - 1, Math.max(0, wanted));
  return { level: levels[n]!, cells: cells >> n };
}
