import { eventAt } from './event-cost.ts';
import type { TokenCosts } from './token-costs.ts';

/** Where nothing is known yet. */
const unknown = -1;

/**
 * What the bytes from any place to the end of a track cost as events without any damage, on any running
 * status. What was once gone over is remembered: ways in step with each other go the same way on.
 */
export class Suffixes {
  private readonly known: (Float32Array | undefined)[] = [];
  private readonly cheapest: Float32Array;
  private readonly statuses: readonly number[];
  private readonly bytes: Uint8Array;
  private readonly body: number;
  private readonly end: number;
  private readonly costs: TokenCosts;

  constructor(bytes: Uint8Array, body: number, end: number, costs: TokenCosts) {
    this.bytes = bytes;
    this.body = body;
    this.end = end;
    this.costs = costs;
    this.statuses = [0, ...costs.statuses()];
    this.cheapest = new Float32Array(end - body + 1).fill(unknown);
  }

  /**
   * What the bytes from `at` on cost in bits, where `running` is in force; Infinity where they are no
   * events up to an end of track at the very end.
   */
  after(at: number, running: number): number {
    const way: { place: number; on: Float32Array; cost: number }[] = [];
    let rest = Infinity;
    for (let [place, status] = [at, running]; ;) {
      const on = this.on(status);
      const before = on[place - this.body]!;
      if (before !== unknown) {
        rest = before;
        break;
      }
      const event = eventAt(this.bytes, place, this.end, status, this.costs);
      way.push({ place, on, cost: event?.clean ? event.cost : Infinity });
      if (!event?.clean) break;
      if (event.ends) {
        rest = event.next === this.end ? 0 : Infinity;
        break;
      }
      [place, status] = [event.next, event.running];
    }
    for (const { place, on, cost } of way.reverse()) on[place - this.body] = rest += cost;
    return rest;
  }

  /** The least that they cost on any status which the track uses much. */
  least(at: number): number {
    const known = this.cheapest[at - this.body]!;
    if (known !== unknown) return known;
    return (this.cheapest[at - this.body] = this.statuses.reduce(
      (least, status) => Math.min(least, this.after(at, status)),
      Infinity,
    ));
  }

  private on(status: number): Float32Array {
    return (this.known[status] ??= new Float32Array(this.end - this.body + 1).fill(unknown));
  }
}
