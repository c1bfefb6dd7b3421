import { barTick, barsUntil, type MeterMap } from '../timing/meter-map.ts';

/**
 * The song's bars in a bounded number of cells, for strips: one bar a cell in ordinary songs,
 * several in very long ones (a damaged file can claim millions of bars).
 */
export interface BarCells {
  readonly bars: number;
  readonly barsPerCell: number;
  /** Tick where each cell begins, with the end of the last behind: one entry more than cells. */
  readonly starts: Float64Array;
}

/** Cells of one track, and of all tracks together. */
const mostCells = 512;
const mostCellsInAll = 1_000_000;

export function barCells(map: MeterMap, endTick: number, tracks = 1): BarCells {
  const bars = barsUntil(map, endTick);
  const most = Math.max(16, Math.min(mostCells, Math.floor(mostCellsInAll / tracks)));
  const barsPerCell = Math.ceil(bars / most);
  const cells = Math.ceil(bars / barsPerCell);
  const starts = Float64Array.from({ length: cells + 1 }, (_, i) =>
    barTick(map, i * barsPerCell + 1),
  );
  return { bars, barsPerCell, starts };
}

/** Which cell a tick lies in. */
export function cellAt({ starts }: Pick<BarCells, 'starts'>, atTick: number): number {
  let low = 0;
  let high = starts.length - 2;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (starts[middle]! <= atTick) low = middle;
    else high = middle - 1;
  }
  return low;
}
