import { eventAt } from './event-cost.ts';
import type { Suffixes } from './suffixes.ts';
import type { TokenCosts } from './token-costs.ts';

/** Bytes of an event that are looked at behind a stretch which parts it. */
const longestParted = 64;

/** One stretch of bytes without which a track reads as events from its beginning to its end. */
export interface PutIn {
  readonly at: number;
  /** What all its other bytes cost as events, in bits. */
  readonly cost: number;
}

/**
 * Where `many` bytes were most likely put into a track: the place without which what is before and behind it reads as the likeliest
 * events. The stretch may part an event, anywhere but within a long payload. Undefined where no such place makes a whole track.
 */
export function putIn(bytes: Uint8Array, from: number, end: number, many: number, costs: TokenCosts, suffixes: Suffixes): PutIn | undefined {
  let best: PutIn | undefined;
  const consider = (at: number, cost: number): void => {
    if (cost < (best?.cost ?? Infinity)) best = { at, cost };
  };
  let running = 0;
  let before = 0;
  for (let at = from; at + many <= end; ) {
    consider(at, before + suffixes.after(at + many, running));
    const event = eventAt(bytes, at, end, running, costs);
    const inside = Math.min(longestParted, (event?.next ?? at + longestParted) - at - 1, end - many - at);
    for (let n = 1; n <= inside; n++) {
      const parted = joined(bytes, at, at + n, at + n + many, end);
      const whole = eventAt(parted, 0, parted.length, running, costs);
      if (!whole?.clean || whole.next <= n) continue;
      const next = at + many + whole.next;
      consider(at + n, before + whole.cost + (whole.ends ? (next === end ? 0 : Infinity) : suffixes.after(next, whole.running)));
    }
    if (!event?.clean || event.ends) break;
    before += event.cost;
    if (before > (best?.cost ?? Infinity)) break;
    ({ next: at, running } = event);
  }
  return best && best.cost < Infinity ? best : undefined;
}

/** The bytes from `at` to `to` and some of those from `behind` on, side by side. */
function joined(bytes: Uint8Array, at: number, to: number, behind: number, end: number): Uint8Array {
  const out = new Uint8Array(Math.min(end - behind, longestParted) + to - at);
  out.set(bytes.subarray(at, to));
  out.set(bytes.subarray(behind, Math.min(end, behind + longestParted)), to - at);
  return out;
}
