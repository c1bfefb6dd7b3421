import { TokenCosts, tokenAt } from './token-costs.ts';

/** A stretch of bytes that reads as events which are like each other. */
export interface Run {
  readonly from: number;
  readonly to: number;
}

/** Places from which a stretch is looked for, evenly over the track: a damage may stand at any. */
const starts = 6;
/** Events that must be unusual among so many in a row before reading is taken to be out of step. */
const [unusual, window, settled] = [7, 16, 60];
/** Times between events in a stretch may be so much longer than in the one with the shortest. */
const asShort = 4;

/**
 * Stretches of a damaged track that read as events like each other: what is usual in the track is learnt from them. Behind a damage events may
 * seem well-formed for long, read out of step: their parts are then such as have not been seen, and statuses or keys read as times are long
 * ones. So of stretches that begin at places all over the track those with the shortest times between events are taken, none within another.
 */
export function usualRuns(bytes: Uint8Array, from: number, end: number): Run[] {
  const runs = [runFrom(bytes, from, end)];
  for (let n = 1; n < starts; n++) {
    const start = eventStart(bytes, from + Math.floor((n * (end - from)) / starts), end);
    if (start < end) runs.push(runFrom(bytes, start, end));
  }
  const longest = Math.max(...runs.map((r) => r.to - r.from));
  const long = runs.filter((r) => (r.to - r.from) * starts >= longest);
  const least = Math.min(...long.map((r) => r.ticks / r.events));
  const usual = runs.filter((r) => r.ticks / r.events <= least * asShort);
  return usual.filter((r, n) => !usual.some((other, m) => m !== n && contains(other, r) && (m < n || !contains(r, other))));
}

const contains = (outer: Run, inner: Run): boolean => outer.from <= inner.from && inner.to <= outer.to;

function runFrom(bytes: Uint8Array, from: number, end: number): Run & { events: number; ticks: number } {
  const seen = new TokenCosts();
  let [running, recent, ticks] = [0, 0, 0];
  const steps: number[] = [];
  const run = (to: number) => ({ from, to, events: steps.length, ticks });
  for (let at = from; at < end; ) {
    const token = tokenAt(bytes, at, end, running);
    if (!token) return run(at);
    const odd = steps.length > settled && !seen.isUsual(token);
    recent = ((recent << 1) | Number(odd)) & ((1 << window) - 1);
    if (bits(recent) >= unusual) return run(steps[Math.max(0, steps.length - window)]!);
    // What is odd is not learnt from: out of step, the same oddities come again and again.
    if (!odd) seen.add(token);
    steps.push(at);
    ticks += token.delta;
    ({ next: at, running } = token);
  }
  return run(end);
}

function bits(n: number): number {
  let count = 0;
  for (let rest = n; rest > 0; rest &= rest - 1) count++;
  return count;
}

/** The next place where an event with a status of its own begins: a time of one byte before a channel status. */
function eventStart(bytes: Uint8Array, from: number, end: number): number {
  for (let at = from; at + 3 < end; at++) if (bytes[at]! < 0x80 && bytes[at + 1]! > 0x7f && bytes[at + 1]! < 0xf0 && bytes[at + 2]! < 0x80) return at;
  return end;
}
