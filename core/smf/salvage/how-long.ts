import { endTick, type Events } from '../events.ts';
import { readQuantity } from '../variable-length.ts';
import { sameRun } from './same-run.ts';

/** Bytes that are no events, and the row of the event behind them. */
export interface Jump {
  readonly from: number;
  readonly to: number;
  readonly row: number;
  /** The time before that event, where it cannot be believed; else 0. */
  readonly distrusted: number;
  /** Ticks that it most likely took, where the same music elsewhere tells. */
  readonly told?: number;
}

/** Bits that speak for a time which stands in the lost bytes. */
const saidInBytes = 8;
/**
 * Bytes on each side of a jump that tell how much time a byte takes there, and as how many bytes the whole
 * track's share counts.
 */
const nearby = 256;
const allOver = 64;
/**
 * Bytes on each side of a jump that are compared with the same music elsewhere; from how many that are
 * alike on it is the same; jumps for which it is sought.
 */
const compared = 24;
const leastAlike = 8;
const mostSought = 24;

/**
 * What a damaged track itself tells of how long its lost bytes lasted: by how much time bytes take around
 * them, and by the same music elsewhere.
 */
export class LostTime {
  private readonly perByte: number;
  private readonly missing: number;
  private readonly rowAt = new Map<number, number>();
  private readonly bytes: Uint8Array;
  private readonly events: Events;
  private readonly starts: readonly number[];
  private readonly distrusted = new Map<number, number>();
  private readonly sought: boolean;

  /** `starts`: the byte at which the event of each row begins. */
  constructor(
    bytes: Uint8Array,
    events: Events,
    starts: readonly number[],
    jumps: readonly Jump[],
    track: { body: number; end: number; missing: number },
  ) {
    this.bytes = bytes;
    this.events = events;
    this.starts = starts;
    const firstNote = events.status.findIndex(
      (status, row) => status >> 4 === 9 && events.data2[row]! > 0,
    );
    const trusted = jumps.reduce(
      (ticks, j) => ticks - j.distrusted,
      endTick(events) - (events.atTick[firstNote] ?? 0),
    );
    this.perByte = trusted / Math.max(1, track.end - track.body);
    this.missing = track.missing / Math.max(1, jumps.length);
    for (const j of jumps) if (j.distrusted > 0) this.distrusted.set(j.row, j.distrusted);
    this.sought = jumps.length <= mostSought;
    if (this.sought) starts.forEach((at, row) => this.rowAt.set(at, row));
  }

  /** The bytes that a jump cost. */
  private many({ from, to }: Jump): number {
    return Math.max(0, to - from + this.missing);
  }

  /** As long as a byte lasts around a jump, as long should those that are lost have lasted. */
  expected(jump: Jump): number {
    const { row } = jump;
    const [first, last] = [this.near(row, -1), this.near(row, 1)];
    const [from, to] = [this.starts[first], this.starts[last]];
    const many = this.many(jump);
    if (from === undefined || to === undefined) return many * this.perByte;
    const bytes = to - from - (jump.to - jump.from);
    const ticks = this.trustedTicks(first, last);
    return (many * (ticks + allOver * this.perByte)) / (bytes + allOver);
  }

  /** The farthest row that begins within so many bytes of one, before or behind it. */
  private near(row: number, step: 1 | -1): number {
    const at = this.starts[row] ?? 0;
    let near = row;
    while (
      this.starts[near + step] !== undefined &&
      Math.abs(this.starts[near + step]! - at) <= nearby
    )
      near += step;
    return near;
  }

  private trustedTicks(first: number, last: number): number {
    let ticks = this.events.atTick[last]! - this.events.atTick[first]!;
    for (const [row, distrusted] of this.distrusted)
      if (row > first && row <= last) ticks -= distrusted;
    return ticks;
  }

  /**
   * Times that something speaks for, and by how many bits: that which is not trusted, those that may stand
   * in the lost bytes, those of the same music elsewhere.
   */
  likely(jump: Jump): Map<number, number> {
    const times = new Map(
      [...timesIn(this.bytes, jump), jump.distrusted].map((t) => [t, saidInBytes]),
    );
    if (jump.told !== undefined) times.set(jump.told, (times.get(jump.told) ?? 0) + compared);
    if (!this.sought || jump.to === 0) return times;
    for (const [time, alike] of this.elsewhere(jump))
      times.set(time, (times.get(time) ?? 0) + alike);
    return times;
  }

  /**
   * Where as many bytes stand between the same bytes as before the jump and behind it: how long they last,
   * and how many bytes are the same.
   */
  private elsewhere(jump: Jump): Map<number, number> {
    const { bytes, events, starts } = this;
    const many = Math.round(this.many(jump));
    const own = jump.distrusted > 0 ? 0 : deltaOf(events, jump.row);
    const found = new Map<number, number>();
    for (let row = 1; row < starts.length; row++) {
      const first = this.rowAt.get(starts[row]! - many);
      if (
        first === undefined ||
        first === 0 ||
        row === jump.row ||
        (first <= jump.row && jump.row <= row)
      )
        continue;
      const behind = sameRun(bytes, jump.to, starts[row]!, 1, compared);
      const before = sameRun(bytes, jump.from - 1, starts[first]! - 1, -1, compared);
      if (behind < leastAlike / 2 || before + behind < leastAlike) continue;
      const time = events.atTick[row]! - events.atTick[first - 1]! - own;
      if (time >= 0) found.set(time, Math.max(found.get(time) ?? 0, before + behind));
    }
    return found;
  }
}

const deltaOf = (events: Events, row: number): number =>
  events.atTick[row]! - (events.atTick[row - 1] ?? 0);

/** Times that the lost bytes may have said: none, or any quantity that stands in them. */
function timesIn(bytes: Uint8Array, { from, to }: Jump): Set<number> {
  const times = new Set([0]);
  for (let at = from; at < Math.min(to, from + 64); at++) {
    const quantity = readQuantity(bytes, at, to);
    if (!quantity.cut && !quantity.tooLong && quantity.value < 1_000_000) times.add(quantity.value);
  }
  return times;
}
