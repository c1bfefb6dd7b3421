import { eventAt, isWiped, wipedCost } from './event-cost.ts';
import type { TokenCosts } from './token-costs.ts';

/** How the bytes of a damaged track are best explained: places of events and of bytes that are none, in order. */
export interface Alignment {
  /**
   * Place of each event, and the status it runs on where it states none; with `status` from another than
   * the one in force it was lost.
   */
  readonly events: readonly { readonly at: number; readonly running: number }[];
  /** Stretches that are no events; `before` is the event that follows. */
  readonly gaps: readonly { readonly from: number; readonly to: number; readonly before: number }[];
  /** Events whose status was lost and is guessed. */
  readonly guessed: number;
  /** In bits: the less, the likelier. */
  readonly cost: number;
}

/** In bits. A damage is rare; a byte of noise is any of 256; a lost status is a damage of one byte. */
export const damageCost = { suspected: 28, certain: 14 };
export const noiseCost = 8.5;
const lostStatusCost = 60;
const longestJump = 72;

/**
 * A way that is so much dearer than one that has come further cannot be the best: a damage from there would
 * be cheaper.
 */
const hopeless = 75;
const lookAhead = 8;

const kinds = { none: 0, event: 1, gap: 2, guessed: 3 } as const;

/**
 * The likeliest reading of the bytes from `from` to `end` as events with damages in between (shortest path
 * over the places of the bytes, cost in bits). At each place the ways with the cheapest few running
 * statuses are kept: what is in step again may still run on a wrong one.
 */
export function realign(
  bytes: Uint8Array,
  from: number,
  end: number,
  costs: TokenCosts,
  damage: number,
): Alignment {
  const n = end - from;
  const noise = noiseUpTo(bytes, from, end);
  const path = new Path(n);
  const statuses = costs.statuses();
  // A way ends with an end of track that starts at `node`, or with the bytes.
  let best = { cost: Infinity, node: -1, ended: false };
  for (let at = 0; at < n; at++) {
    const hopelessFrom = path.cheapestAhead(at) + hopeless;
    for (let node = at * ways; node < (at + 1) * ways; node++) {
      const here = path.cost[node]!;
      if (here === Infinity || here > hopelessFrom) continue;
      const running = path.running[node]!;
      const event = eventAt(bytes, from + at, end, running, costs);
      if (event?.ends) {
        const total = here + event.cost + (noise[n]! - noise[event.next - from]!) / 2;
        if (total < best.cost) best = { cost: total, node, ended: true };
      } else if (event)
        path.reach(event.next - from, here + event.cost, node, kinds.event, event.running);
      // In the midst of events that run on, another channel for the same kind is no better guess.
      const inRun = running !== 0 && path.kind[node] !== kinds.gap;
      if (at > 0 && bytes[from + at]! < 0x80) {
        for (const status of statuses) {
          if (status === running || (inRun && status >> 4 === running >> 4)) continue;
          const guess = eventAt(bytes, from + at, end, status, costs);
          if (guess && !guess.explicit)
            path.reach(
              guess.next - from,
              here + guess.cost + lostStatusCost,
              node,
              kinds.guessed,
              status,
            );
        }
      }
      // Two gaps side by side are dearer than one.
      if (path.kind[node] === kinds.gap) continue;
      const farthest = Math.min(longestJump, n - at);
      for (let k = 1; k <= farthest; k++)
        path.reach(at + k, here + damage + noise[at + k]! - noise[at]!, node, kinds.gap, running);
    }
  }
  const last = path.cheapestAt(n);
  if (path.cost[last]! + 12 < best.cost)
    best = { cost: path.cost[last]!, node: last, ended: false };
  const found = { ...path.traced(from, best.node), cost: best.cost };
  if (!best.ended) return found;
  // Bytes behind the end are passed over, as they are everywhere.
  const ending = { at: from + Math.floor(best.node / ways), running: path.running[best.node]! };
  return { ...found, events: [...found.events, ending] };
}

/** What the bytes before each place cost as noise. */
function noiseUpTo(bytes: Uint8Array, from: number, end: number): Float64Array {
  const sum = new Float64Array(end - from + 1);
  for (let at = from; at < end;) {
    let to = at + 1;
    while (to < end && bytes[to] === bytes[at]) to++;
    const each = isWiped(bytes[at]!, to - at) ? wipedCost : noiseCost;
    for (; at < to; at++) sum[at - from + 1] = sum[at - from]! + each;
  }
  return sum;
}

/** Ways kept at each place, with running statuses of their own. */
const ways = 2;

/**
 * The best ways to each place: how dear, from which node, as what, on which running status. A node is a way
 * at a place: place times `ways`, and its number.
 */
class Path {
  readonly cost: Float64Array;
  readonly running: Uint8Array;
  readonly kind: Uint8Array;
  private readonly back: Int32Array;

  constructor(n: number) {
    const nodes = (n + 1) * ways;
    this.cost = new Float64Array(nodes).fill(Infinity);
    this.cost[0] = 0;
    this.running = new Uint8Array(nodes);
    this.back = new Int32Array(nodes).fill(-1);
    this.kind = new Uint8Array(nodes);
  }

  /** A way to a place: in place of a dearer one with the same running status, else of the dearest. */
  reach(to: number, cost: number, back: number, kind: number, running: number): void {
    const first = to * ways;
    let node = first;
    for (let other = first; other < first + ways; other++) {
      if (this.running[other] === running && this.cost[other] !== Infinity) {
        node = other;
        break;
      }
      if (this.cost[other]! > this.cost[node]!) node = other;
    }
    if (cost >= this.cost[node]!) return;
    this.cost[node] = cost;
    this.back[node] = back;
    this.kind[node] = kind;
    this.running[node] = running;
  }

  cheapestAt(at: number): number {
    let best = at * ways;
    for (let node = best + 1; node < (at + 1) * ways; node++)
      if (this.cost[node]! < this.cost[best]!) best = node;
    return best;
  }

  cheapestAhead(at: number): number {
    let least = Infinity;
    const end = Math.min(this.cost.length, (at + lookAhead + 1) * ways);
    for (let node = (at + 1) * ways; node < end; node++)
      if (this.cost[node]! < least) least = this.cost[node]!;
    return least;
  }

  traced(from: number, last: number): Omit<Alignment, 'cost'> {
    const events: { at: number; running: number }[] = [];
    const gaps: { from: number; to: number; before: number }[] = [];
    let guessed = 0;
    for (let node = last; node > 0 && this.back[node] !== -1; node = this.back[node]!) {
      const before = this.back[node]!;
      const [start, at] = [from + Math.floor(before / ways), from + Math.floor(node / ways)];
      const kind = this.kind[node]!;
      if (kind === kinds.gap) gaps.push({ from: start, to: at, before: events.length });
      else
        events.push({
          at: start,
          running: kind === kinds.guessed ? this.running[node]! : this.running[before]!,
        });
      if (kind === kinds.guessed) guessed++;
    }
    events.reverse();
    return {
      events,
      gaps: gaps.reverse().map((g) => ({ ...g, before: events.length - g.before })),
      guessed,
    };
  }
}
