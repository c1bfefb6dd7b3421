import { META, meta } from '../events.ts';
import { wrongLength } from '../meta-lengths.ts';
import { readQuantity } from '../variable-length.ts';
import type { TokenCosts } from './token-costs.ts';

/** In bits: a data byte above 127 and a stray status are damages of one byte. */
const highByteCost = 20;
const strayCost = 14;
const usualTime = 9;
/** Many zeros or 255 in a row are wiped bytes: no noise is like that. */
export const wipedCost = -1;
export const isWiped = (byte: number, many: number): boolean =>
  many >= 6 && (byte === 0 || byte === 0xff);

/** A likely event: where it ends, what it costs to believe it in bits, which status runs on behind it. */
export interface Priced {
  readonly next: number;
  readonly cost: number;
  readonly running: number;
  readonly explicit: boolean;
  readonly ends: boolean;
  /** No byte of it is damaged. */
  readonly clean: boolean;
}

/** The event at `at`, if bytes there can be one, and what it costs to believe it. */
export function eventAt(
  bytes: Uint8Array,
  at: number,
  end: number,
  running: number,
  costs: TokenCosts,
): Priced | undefined {
  const delta = readQuantity(bytes, at, end);
  if (delta.cut || delta.tooLong || delta.next >= end) return undefined;
  let next = delta.next;
  const explicit = bytes[next]! > 0x7f;
  const status = explicit ? bytes[next++]! : running;
  if (status === 0) return undefined;
  const time = costs.deltaCost(delta.value, at);
  const cost = time + costs.statusCost(explicit ? status : undefined);
  if (status >= 0xf0) {
    const event = explicit ? payloadEvent(bytes, next, end, status, cost) : undefined;
    // Before its end a track may rest as long as it likes.
    return event?.ends ? { ...event, cost: event.cost - Math.max(0, time - usualTime) } : event;
  }
  const short = (status & 0xe0) === 0xc0;
  if (next + (short ? 1 : 2) > end) return undefined;
  const [first, second] = [bytes[next]!, short ? 0 : bytes[next + 1]!];
  const high = Number(first > 0x7f) + Number(second > 0x7f);
  const data = high > 0 ? high * highByteCost + 7 : costs.dataCost(status, first, second);
  return {
    next: next + (short ? 1 : 2),
    cost: cost + data,
    running: status,
    explicit,
    ends: false,
    clean: high === 0,
  };
}

function payloadEvent(
  bytes: Uint8Array,
  at: number,
  end: number,
  status: number,
  cost: number,
): Priced | undefined {
  if (status !== META && status !== 0xf0 && status !== 0xf7) {
    const next = at + (status === 0xf2 ? 2 : status === 0xf1 || status === 0xf3 ? 1 : 0);
    return next > end
      ? undefined
      : { next, cost: cost + strayCost, running: 0, explicit: true, ends: false, clean: false };
  }
  const type = status === META ? bytes[at]! : -1;
  const length = readQuantity(bytes, status === META ? at + 1 : at, end);
  const next = length.next + length.value;
  if (type > 0x7f || length.cut || length.tooLong || next > end) return undefined;
  const odd =
    (type > 9 && wrongLength(type, length.value) === undefined && !knownTypes.has(type) ? 12 : 0) +
    (wrongLength(type, length.value) !== undefined ? 16 : 0);
  const unended = status === 0xf0 && bytes[next - 1] !== 0xf7 ? 10 : 0;
  const ends = type === meta.endOfTrack;
  return {
    next,
    cost: cost + 4 + odd + unended + payloadCost(bytes, length.next, next, type),
    running: 0,
    explicit: true,
    ends,
    clean: true,
  };
}

const knownTypes: ReadonlySet<number> = new Set(Object.values(meta));

/**
 * Texts are letters, system exclusive data lies below 128; what is neither is noise. Many zeros in a
 * payload are no likelier to be wiped than elsewhere.
 */
function payloadCost(bytes: Uint8Array, from: number, to: number, type: number): number {
  let cost = 0;
  for (let at = from; at < to;) {
    const byte = bytes[at]!;
    const start = at;
    while (at < to && bytes[at] === byte) at++;
    const letter = (byte >= 0x20 && byte !== 0x7f) || byte === 0x0a || byte === 0x0d;
    const first =
      type >= 1 && type <= 9 ? (letter ? 6 : 9) : byte < 0x80 || start === to - 1 ? 6.5 : 8;
    cost += isWiped(byte, at - start) ? (at - start) * wipedCost : first + at - start - 1;
  }
  return cost;
}
