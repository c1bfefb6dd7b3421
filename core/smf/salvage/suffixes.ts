import { eventAt } from './event-cost.ts';
import type { TokenCosts } from './token-costs.ts';

/** What the bytes from any place to the end of a track cost as events without any damage, on any running status. What was once gone over is remembered: ways in step with each other go the same way on. */
export class Suffixes {
  private readonly known = new Map<number, number>();
  private readonly bytes: Uint8Array;
  private readonly end: number;
  private readonly costs: TokenCosts;

  constructor(bytes: Uint8Array, end: number, costs: TokenCosts) {
    this.bytes = bytes;
    this.end = end;
    this.costs = costs;
  }

  /** What the bytes from `at` on cost in bits, where `running` is in force; Infinity where they are no events up to an end of track at the very end. */
  after(at: number, running: number): number {
    const way: { key: number; cost: number }[] = [];
    let rest = Infinity;
    for (let [place, status] = [at, running]; ; ) {
      const key = place * 256 + status;
      const before = this.known.get(key);
      if (before !== undefined) {
        rest = before;
        break;
      }
      const event = eventAt(this.bytes, place, this.end, status, this.costs);
      way.push({ key, cost: event?.clean ? event.cost : Infinity });
      if (!event?.clean) break;
      if (event.ends) {
        rest = event.next === this.end ? 0 : Infinity;
        break;
      }
      [place, status] = [event.next, event.running];
    }
    for (const { key, cost } of way.reverse()) this.known.set(key, (rest += cost));
    return rest;
  }
}
