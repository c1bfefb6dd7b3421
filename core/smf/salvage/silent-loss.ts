import type { Events } from '../events.ts';
import { sameRun } from './same-run.ts';

/** Where bytes are missing, and how long they lasted, as the same music elsewhere tells. */
export interface SilentLoss {
  /** The first row behind them. */
  readonly row: number;
  readonly ticks: number;
}

/** Rows before the one where the loss shows, and behind it, in which it is sought. */
const before = 48;
const behind = 2;
/** Bytes on each side of a place that are compared; so many must be the same in all, and on each side. */
const compared = 32;
const leastInAll = 20;
const leastOnASide = 5;
/** Where nothing shows where it is it is sought all over, in tracks up to so many rows, and more must be the same. */
const mostRows = 5000;
const mostBytes = 64;
const leastAnywhere = 48;

/**
 * The place near `near` at which `many` bytes are missing: where what is before it and what is behind it
 * stand elsewhere in the track with so many bytes in between. It may part an event. `starts`: the byte at
 * which the event of each row begins. Undefined where the music does not come again.
 */
export function silentLoss(
  bytes: Uint8Array,
  { atTick }: Events,
  starts: readonly number[],
  near: number | undefined,
  many: number,
): SilentLoss | undefined {
  if (near === undefined && (starts.length > mostRows || many > mostBytes)) return undefined;
  const rowAt = new Map(starts.map((at, row) => [at, row]));
  const tickBefore = (row: number): number => (row === 0 ? 0 : atTick[row - 1]!);
  let best: (SilentLoss & { same: number }) | undefined;
  const [first, last] =
    near === undefined
      ? [0, starts.length - 2]
      : [Math.max(0, near - before), Math.min(starts.length - 2, near + behind)];
  const least = near === undefined ? leastAnywhere : leastInAll;
  for (let row = last; row >= first; row--) {
    const [start, next] = [starts[row]!, starts[row + 1]!];
    for (let other = 0; other < starts.length; other++) {
      if (other === row) continue;
      const end = rowAt.get(starts[other]! + next - start + many);
      if (end === undefined || end <= other) continue;
      for (let at = start; at < next; at++) {
        const there = starts[other]! + at - start;
        if (bytes[at] !== bytes[there + many]) continue;
        const forwards = sameRun(bytes, at, there + many, 1, compared);
        if (forwards < leastOnASide) continue;
        const backwards = sameRun(bytes, at - 1, there - 1, -1, compared);
        if (
          backwards < leastOnASide ||
          forwards + backwards < least ||
          forwards + backwards <= (best?.same ?? 0)
        )
          continue;
        const ticks = atTick[end - 1]! - tickBefore(other) - (atTick[row]! - tickBefore(row));
        if (ticks >= 0)
          best = { row: at === start ? row : row + 1, ticks, same: forwards + backwards };
      }
    }
  }
  return best;
}
