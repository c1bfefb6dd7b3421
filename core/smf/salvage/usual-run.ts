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
/** Events from which what is usual can be learnt. */
const enough = 48;

/**
 * A stretch of a damaged track that reads as events like each other: what is usual in the track is learnt from it. The beginning, where
 * that is long enough; else, of some stretches further on, the one whose times between events are the shortest. Behind a damage events may
 * seem well-formed for long, read out of step: their parts are then such as have not been seen, and statuses read as times are long ones.
 */
export function usualRun(bytes: Uint8Array, from: number, end: number): Run {
  const beginning = runFrom(bytes, from, end);
  if (beginning.events >= enough) return beginning;
  const runs = [beginning];
  for (let n = 1; n < starts; n++) {
    const start = eventStart(bytes, from + Math.floor((n * (end - from)) / starts), end);
    if (start < end) runs.push(runFrom(bytes, start, end));
  }
  const longest = Math.max(...runs.map((r) => r.to - r.from));
  const long = runs.filter((r) => (r.to - r.from) * 4 >= longest);
  return long.reduce((best, r) => (r.ticks / r.events < best.ticks / best.events ? r : best));
}

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
