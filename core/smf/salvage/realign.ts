import { META, meta } from '../events.ts';
import { wrongLength } from '../meta-lengths.ts';
import { readQuantity } from '../variable-length.ts';
import type { TokenCosts } from './token-costs.ts';

/** How the bytes of a damaged track are best explained: places of events and of bytes that are none, in order. */
export interface Alignment {
  /** Place of each event, and the status it runs on where it states none; with `status` from another than the one in force it was lost. */
  readonly events: readonly { readonly at: number; readonly running: number }[];
  /** Stretches that are no events; `before` is the event that follows. */
  readonly gaps: readonly { readonly from: number; readonly to: number; readonly before: number }[];
  /** Events whose status was lost and is guessed. */
  readonly guessed: number;
}

/** In bits. A damage is rare; a byte of noise is any of 256; a data byte above 127, a lost status, a stray status are damages of one byte. */
export const damageCost = { suspected: 28, certain: 14 };
const noiseCost = 8.5;
const highByteCost = 20;
const lostStatusCost = 30;
const strayCost = 14;
const longestJump = 72;
/** Many zeros or 255 in a row are wiped bytes: no noise is like that. */
const wipedCost = -1;
const wipedAtLeast = 6;

/** A way that is so much dearer than one that has come further cannot be the best: a damage from there would be cheaper. */
const hopeless = 75;
const lookAhead = 8;

const kinds = { none: 0, event: 1, gap: 2, guessed: 3 } as const;

/**
 * The likeliest reading of the bytes from `from` to `end` as events with damages in between (shortest path over the places of the bytes,
 * cost in bits). Memory: 13 bytes a byte.
 */
export function realign(bytes: Uint8Array, from: number, end: number, costs: TokenCosts, damage: number): Alignment {
  const n = end - from;
  const noise = noiseUpTo(bytes, from, end);
  const path = new Path(n);
  const statuses = costs.statuses();
  const reach = (to: number, cost: number, back: number, kind: number, running: number): void => path.reach(to - from, cost, back - from, kind, running);
  // A way ends with an end of track that starts at `at`, or with the bytes.
  let best = { cost: Infinity, at: n, ended: false };
  for (let at = from; at < end; at++) {
    const here = path.cost[at - from]!;
    if (here === Infinity || here > path.cheapestAhead(at - from) + hopeless) continue;
    const running = path.running[at - from]!;
    const event = eventAt(bytes, at, end, running, costs);
    if (event) {
      if (event.ends) {
        const total = here + event.cost + (noise[n]! - noise[event.next - from]!) / 2;
        if (total < best.cost) best = { cost: total, at: at - from, ended: true };
      } else reach(event.next, here + event.cost, at, kinds.event, event.running);
    }
    if (at > from && bytes[at]! < 0x80) {
      for (const status of statuses) {
        if (status === running) continue;
        const guess = eventAt(bytes, at, end, status, costs);
        if (guess && !guess.explicit) reach(guess.next, here + guess.cost + lostStatusCost, at, kinds.guessed, status);
      }
    }
    // Two gaps side by side are dearer than one.
    if (path.isGap(at - from)) continue;
    const farthest = Math.min(longestJump, end - at);
    for (let k = 1; k <= farthest; k++) reach(at + k, here + damage + noise[at + k - from]! - noise[at - from]!, at, kinds.gap, running);
  }
  if (path.cost[n]! + 12 < best.cost) best = { cost: path.cost[n]!, at: n, ended: false };
  const found = path.traced(from, best.at);
  if (!best.ended) return found;
  // Bytes behind the end are passed over, as they are everywhere.
  const last = { at: from + best.at, running: path.running[best.at]! };
  return { ...found, events: [...found.events, last] };
}

/** What the bytes before each place cost as noise. */
function noiseUpTo(bytes: Uint8Array, from: number, end: number): Float64Array {
  const sum = new Float64Array(end - from + 1);
  for (let at = from; at < end; ) {
    let to = at + 1;
    if (bytes[at] === 0 || bytes[at] === 0xff) while (to < end && bytes[to] === bytes[at]) to++;
    const each = to - at >= wipedAtLeast ? wipedCost : noiseCost;
    for (; at < to; at++) sum[at - from + 1] = sum[at - from]! + each;
  }
  return sum;
}

/** The best way to each place: how dear, from where, as what, on which running status. */
class Path {
  readonly cost: Float64Array;
  readonly running: Uint8Array;
  private readonly back: Uint32Array;
  private readonly kind: Uint8Array;

  constructor(n: number) {
    this.cost = new Float64Array(n + 1).fill(Infinity);
    this.cost[0] = 0;
    this.running = new Uint8Array(n + 1);
    this.back = new Uint32Array(n + 1);
    this.kind = new Uint8Array(n + 1);
  }

  reach(to: number, cost: number, back: number, kind: number, running: number): void {
    if (cost >= this.cost[to]!) return;
    this.cost[to] = cost;
    this.back[to] = back;
    this.kind[to] = kind;
    this.running[to] = running;
  }

  isGap(at: number): boolean {
    return this.kind[at] === kinds.gap;
  }

  cheapestAhead(at: number): number {
    let least = Infinity;
    for (let i = at + 1; i <= at + lookAhead && i < this.cost.length; i++) if (this.cost[i]! < least) least = this.cost[i]!;
    return least;
  }

  traced(from: number, last: number): Alignment {
    const events: { at: number; running: number }[] = [];
    const gaps: { from: number; to: number; before: number }[] = [];
    let guessed = 0;
    for (let at = last; at > 0; at = this.back[at]!) {
      const start = this.back[at]!;
      if (this.kind[at] === kinds.gap) {
        const next = gaps.at(-1);
        // Gaps side by side are one.
        if (next && next.from === from + at && next.before === events.length) gaps[gaps.length - 1] = { ...next, from: from + start };
        else gaps.push({ from: from + start, to: from + at, before: events.length });
        continue;
      }
      if (this.kind[at] === kinds.guessed) guessed++;
      events.push({ at: from + start, running: this.kind[at] === kinds.guessed ? this.running[at]! : this.running[start]! });
    }
    events.reverse();
    const total = events.length;
    return { events, gaps: gaps.reverse().map((g) => ({ ...g, before: total - g.before })), guessed };
  }
}

interface Priced {
  readonly next: number;
  readonly cost: number;
  readonly running: number;
  readonly explicit: boolean;
  readonly ends: boolean;
}

/** The event at `at`, if bytes there can be one, and what it costs to believe it. */
function eventAt(bytes: Uint8Array, at: number, end: number, running: number, costs: TokenCosts): Priced | undefined {
  const delta = readQuantity(bytes, at, end);
  if (delta.cut || delta.tooLong || delta.next >= end) return undefined;
  let next = delta.next;
  const explicit = bytes[next]! > 0x7f;
  const status = explicit ? bytes[next++]! : running;
  if (status === 0) return undefined;
  const cost = costs.deltaCost(delta.value) + costs.statusCost(explicit ? status : undefined);
  if (status >= 0xf0) return explicit ? payloadEvent(bytes, next, end, status, cost) : undefined;
  const short = (status & 0xe0) === 0xc0;
  if (next + (short ? 1 : 2) > end) return undefined;
  const [first, second] = [bytes[next]!, short ? 0 : bytes[next + 1]!];
  const high = Number(first > 0x7f) + Number(second > 0x7f);
  const data = high > 0 ? high * highByteCost + 7 : costs.dataCost(status, first, second);
  return { next: next + (short ? 1 : 2), cost: cost + data, running: status, explicit, ends: false };
}

function payloadEvent(bytes: Uint8Array, at: number, end: number, status: number, cost: number): Priced | undefined {
  if (status !== META && status !== 0xf0 && status !== 0xf7) {
    const next = at + (status === 0xf2 ? 2 : status === 0xf1 || status === 0xf3 ? 1 : 0);
    return next > end ? undefined : { next, cost: cost + strayCost, running: 0, explicit: true, ends: false };
  }
  const type = status === META ? bytes[at]! : -1;
  const length = readQuantity(bytes, status === META ? at + 1 : at, end);
  const next = length.next + length.value;
  if (type > 0x7f || length.cut || length.tooLong || next > end) return undefined;
  const odd = (type > 9 && wrongLength(type, length.value) === undefined && !knownTypes.has(type) ? 12 : 0) + (wrongLength(type, length.value) !== undefined ? 16 : 0);
  const unended = status === 0xf0 && bytes[next - 1] !== 0xf7 ? 10 : 0;
  return { next, cost: cost + 4 + odd + unended + payloadCost(bytes, length.next, next, type), running: 0, explicit: true, ends: type === meta.endOfTrack };
}

const knownTypes: ReadonlySet<number> = new Set(Object.values(meta));

/** Texts are letters, system exclusive data lies below 128; what is neither is noise. */
function payloadCost(bytes: Uint8Array, from: number, to: number, type: number): number {
  let cost = 0;
  for (let i = from; i < to; i++) {
    const byte = bytes[i]!;
    const letter = (byte >= 0x20 && byte !== 0x7f) || byte === 0x0a || byte === 0x0d;
    if (i > from && byte === bytes[i - 1]) cost += 1;
    else cost += type >= 1 && type <= 9 ? (letter ? 6 : 9) : byte < 0x80 || i === to - 1 ? 6.5 : 8;
  }
  return cost;
}
