import { kindOf } from '../edit/event-kinds.ts';
import { payloadOf, type Events } from '../smf/events.ts';
import { sameEvent } from '../smf/compare.ts';

/** Events by kind, each counted as often as it stands. */
export type KindCounts = Readonly<Record<string, number>>;

/**
 * Events that `after` has and `before` lacks, and the reverse. Events are in the order of their ticks, so
 * only those of one tick can answer each other: each tick's are sorted by what they say and passed side by
 * side. No object an event: tracks may have millions.
 */
export function difference(
  before: Events,
  after: Events,
): { added: KindCounts; removed: KindCounts } {
  const { from, behind } = alike(before, after);
  const old = new TickRows(before, from, before.count - behind);
  const now = new TickRows(after, from, after.count - behind);
  const added = new Map<string, number>();
  const removed = new Map<string, number>();
  while (old.left || now.left) {
    const tick = Math.min(old.tick, now.tick);
    old.take(tick);
    now.take(tick);
    weigh(old, now, removed, added);
  }
  return { added: Object.fromEntries(added), removed: Object.fromEntries(removed) };
}

/** Passes the sorted rows of one tick side by side; what stands on one side only is counted there. */
function weigh(
  old: TickRows,
  now: TickRows,
  removed: Map<string, number>,
  added: Map<string, number>,
): void {
  for (let i = 0, j = 0; i < old.count || j < now.count;) {
    const order =
      i === old.count
        ? 1
        : j === now.count
          ? -1
          : orderOf(old.events, old.rows[i]!, now.events, now.rows[j]!);
    if (order < 0) countKind(removed, old.events, old.rows[i]!);
    if (order > 0) countKind(added, now.events, now.rows[j]!);
    if (order <= 0) i++;
    if (order >= 0) j++;
  }
}

function countKind(counts: Map<string, number>, events: Events, row: number): void {
  const kind = kindOf(events, row) ?? 'end';
  counts.set(kind, (counts.get(kind) ?? 0) + 1);
}

/** Rows of a stretch of a track, a tick at a time, sorted by what the events say. */
class TickRows {
  readonly events: Events;
  rows = new Uint32Array(16);
  count = 0;
  private at: number;
  private readonly end: number;

  constructor(events: Events, at: number, end: number) {
    this.events = events;
    this.at = at;
    this.end = end;
  }

  get left(): boolean {
    return this.at < this.end;
  }

  get tick(): number {
    return this.left ? this.events.atTick[this.at]! : Infinity;
  }

  /** Takes the rows that stand on `tick`, which is the next one or before it. */
  take(tick: number): void {
    const from = this.at;
    while (this.at < this.end && this.events.atTick[this.at] === tick) this.at++;
    this.count = this.at - from;
    if (this.count > this.rows.length) this.rows = new Uint32Array(this.count * 2);
    for (let n = 0; n < this.count; n++) this.rows[n] = from + n;
    if (this.count > 1)
      this.rows.subarray(0, this.count).sort((a, b) => orderOf(this.events, a, this.events, b));
  }
}

/** Which of two events of one tick stands first when they are ordered by what they say; 0 where they say the same. */
function orderOf(a: Events, i: number, b: Events, j: number): number {
  const first =
    a.status[i]! - b.status[j]! || a.data1[i]! - b.data1[j]! || a.data2[i]! - b.data2[j]!;
  if (first !== 0 || (a.payload[i] === 0 && b.payload[j] === 0)) return first;
  const [one, other] = [payloadOf(a, i), payloadOf(b, j)];
  const least = Math.min(one.length, other.length);
  for (let n = 0; n < least; n++) if (one[n] !== other[n]) return one[n]! - other[n]!;
  return one.length - other.length;
}

/** How many events at the beginning and at the end are the same in both: most of a track, after most steps. */
function alike(a: Events, b: Events): { from: number; behind: number } {
  const least = Math.min(a.count, b.count);
  let from = 0;
  while (from < least && sameEvent(a, from, b, from)) from++;
  let behind = 0;
  while (behind < least - from && sameEvent(a, a.count - 1 - behind, b, b.count - 1 - behind))
    behind++;
  return { from, behind };
}
