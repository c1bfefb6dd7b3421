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
  const places = new PlacesOfRuns(bytes, leastOnASide);
  let best: (SilentLoss & { same: number }) | undefined;
  const [first, last] =
    near === undefined
      ? [0, starts.length - 2]
      : [Math.max(0, near - before), Math.min(starts.length - 2, near + behind)];
  const least = near === undefined ? leastAnywhere : leastInAll;
  for (let row = last; row >= first; row--) {
    const [start, next] = [starts[row]!, starts[row + 1]!];
    // Those of the best of this row; a row before it is not given up for one that speaks as loudly.
    let [bestOther, bestAt] = [-1, -1];
    for (let at = start; at < next; at++) {
      // What is behind the place has to stand elsewhere: only such places are looked at.
      for (let p = places.first(at); p !== -1; p = places.next(p)) {
        const there = p - many;
        if (bytes[at - 1] !== bytes[there - 1] || bytes[at - 2] !== bytes[there - 2]) continue;
        const other = rowAt.get(there - at + start);
        if (other === undefined || other === row) continue;
        const end = rowAt.get(starts[other]! + next - start + many);
        if (end === undefined || end <= other) continue;
        const forwards = sameRun(bytes, at, p, 1, compared);
        if (forwards < leastOnASide) continue;
        const backwards = sameRun(bytes, at - 1, there - 1, -1, compared);
        const same = forwards + backwards;
        if (backwards < leastOnASide || same < least) continue;
        // Of places that speak as loudly the last row counts, in it the first that it is like.
        const isFirst = other < bestOther || (other === bestOther && at < bestAt);
        if (best && (same < best.same || (same === best.same && !isFirst))) continue;
        const ticks = atTick[end - 1]! - tickBefore(other) - (atTick[row]! - tickBefore(row));
        if (ticks < 0) continue;
        best = { row: at === start ? row : row + 1, ticks, same };
        [bestOther, bestAt] = [other, at];
      }
    }
  }
  return best;
}

/** Where else the run of so many bytes that begins at a place may begin. */
class PlacesOfRuns {
  private readonly bytes: Uint8Array;
  private readonly many: number;
  /** By hash the last place, and for each place the one before it of the same hash; -1 for none. */
  private readonly heads = new Int32Array(1 << 16).fill(-1);
  private readonly links: Int32Array;

  constructor(bytes: Uint8Array, many: number) {
    this.bytes = bytes;
    this.many = many;
    this.links = new Int32Array(bytes.length);
    for (let at = 0; at + many <= bytes.length; at++) {
      const hash = this.hashAt(at);
      this.links[at] = this.heads[hash]!;
      this.heads[hash] = at;
    }
  }

  first = (at: number): number =>
    at + this.many <= this.bytes.length ? this.heads[this.hashAt(at)]! : -1;
  next = (place: number): number => this.links[place]!;

  private hashAt(at: number): number {
    let hash = 0;
    for (let n = 0; n < this.many; n++) hash = (hash * 31 + this.bytes[at + n]!) >>> 0;
    return (hash ^ (hash >>> 16)) & 0xffff;
  }
}
