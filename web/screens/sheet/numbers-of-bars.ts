/** How near two numbers may stand, as a part of the column. */
const nearest = 0.09;
/** Songs with fewer marks are numbered evenly. */
const enough = 2;

/**
 * The bars that are numbered over a column as long as the song, the first always: those in which its marks lie
 * (`marked`, parts of its length), else some at even steps; each once, and none so near that they would meet.
 */
export function numbersOfBars(bars: number, marked: readonly number[]): number[] {
  const step = Math.max(1, Math.ceil(bars * nearest));
  const wanted =
    marked.length >= enough
      ? marked.map((at) => Math.min(bars, Math.floor(at * bars + 1e-6) + 1))
      : Array.from({ length: Math.ceil(bars / step) }, (_, n) => 1 + n * step);
  const shown = [1];
  for (const bar of wanted.toSorted((a, b) => a - b))
    if ((bar - shown.at(-1)!) / bars >= nearest) shown.push(bar);
  return shown;
}
