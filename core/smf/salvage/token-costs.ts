import { readQuantity } from '../variable-length.ts';

/** Stands for a status that is not written but runs on, in the count of statuses. */
const runningOn = 0;
const plainDeltas = 4096;
const mostStatuses = 16;
const mostTimes = 8;
/** The first bytes of times of two bytes, but for the longest. */
const longerTimes = [0x81, 0x82, 0x83, 0x84, 0x85, 0x86, 0x87, 0x88, 0x8f];
/** Bits that a part costs at most: every file has events that come once, and one of them is no damage. */
const dearest = 9;
/** What a time costs beyond that which is longer than any that was read well. */
const tooLong = 8;

/**
 * How surprising each part of an event is in this file, in bits: −log₂ of its share in what was read well.
 * What has not been seen costs more, never endlessly. Events read out of step are surprising all over,
 * which is how they are told.
 */
export class TokenCosts {
  private readonly status = new Float32Array(256);
  private readonly first = new Float32Array(256 * 128);
  private readonly second = new Float32Array(256 * 128);
  /** The same over all channels: in rows 0 to 7 by kind of message. */
  private readonly firstOfKind = new Float32Array(8 * 128);
  private readonly secondOfKind = new Float32Array(8 * 128);
  private readonly ofKind = new Float32Array(8);
  private readonly delta = new Float32Array(plainDeltas);
  private readonly firstTotal = new Float32Array(256);
  private readonly secondTotal = new Float32Array(256);
  private longest = 0;
  private nextLongest = 0;
  private counted = 0;
  /** Where the first note begins: the rest before the music may be as long as it likes. */
  musicAt = -1;

  /** How many events were counted. */
  get events(): number {
    return this.counted;
  }

  /**
   * Counts the well-formed events between `from`, where `running` is in force, and `end`; gives where they
   * stop being so.
   */
  count(bytes: Uint8Array, from: number, end: number, running = 0): number {
    let at = from;
    while (at < end) {
      const token = tokenAt(bytes, at, end, running);
      if (!token) break;
      this.add(token);
      ({ next: at, running } = token);
    }
    return at;
  }

  add({ delta, explicit, status, first, second }: Token): void {
    if (delta < plainDeltas) this.delta[delta]!++;
    this.learnLongest(delta);
    this.status[explicit ? status : runningOn]!++;
    this.counted++;
    if (status >= 0xf0) return;
    this.first[(status << 7) | first]!++;
    this.firstTotal[status]!++;
    const kind = (status >> 4) & 7;
    this.ofKind[kind]!++;
    this.firstOfKind[(kind << 7) | first]!++;
    if (second !== undefined) this.secondOfKind[(kind << 7) | second]!++;
    if (second === undefined) return;
    const place = secondPlace(status, first, second);
    this.second[place]!++;
    this.secondTotal[place >> 7]!++;
  }

  private learnLongest(delta: number): void {
    if (delta <= this.nextLongest) return;
    [this.longest, this.nextLongest] =
      delta > this.longest ? [delta, this.longest] : [this.longest, delta];
  }

  /** The longest time that is usual: one that is far longer than all others may itself be damaged. */
  private usuallyLongest(): number {
    return this.longest > this.nextLongest * 16 ? this.nextLongest : this.longest;
  }

  /** Whether an event is like those counted so far: most of its parts have been seen. */
  isUsual({ delta, explicit, status, first, second }: Token): boolean {
    const seen =
      Number(delta <= this.longest) + Number(this.status[explicit ? status : runningOn]! > 0);
    if (status >= 0xf0) return seen === 2;
    return (
      seen +
        Number(this.first[(status << 7) | first]! > 0) +
        Number(second === undefined || this.second[secondPlace(status, first, second)]! > 0) >=
      3
    );
  }

  /** What the time costs that stands at `at`. */
  deltaCost(value: number, at: number): number {
    if (at === this.musicAt) return 0;
    const total = this.counted + 2;
    const longest = this.usuallyLongest();
    const beyond = value > longest ? tooLong : 0;
    if (value < plainDeltas) {
      const times = this.delta[value]!;
      const cost =
        times > 0 ? bitsOf(total) - bitsOf(times) : bitsOf(total) + 2 + bitsOf(value + 2);
      return Math.min(dearest + 5, cost) + beyond;
    }
    return dearest + 5 + (beyond > 0 ? beyond + Math.log2(value / Math.max(1, longest)) * 9 : 0);
  }

  /** Whether such a time was read well anywhere. */
  isKnownTime(delta: number): boolean {
    return delta < plainDeltas && this.delta[delta]! > 0;
  }

  statusCost(explicit: number | undefined): number {
    return costOf(this.status[explicit ?? runningOn]!, this.counted, 256);
  }

  dataCost(status: number, first: number, second: number): number {
    const kind = (status >> 4) & 7;
    const cost = this.costLike(
      this.first[(status << 7) | first]!,
      this.firstTotal[status]!,
      this.firstOfKind[(kind << 7) | first]!,
      this.ofKind[kind]!,
    );
    if ((status & 0xe0) === 0xc0) return cost;
    const place = secondPlace(status, first, second);
    return (
      cost +
      this.costLike(
        this.second[place]!,
        this.secondTotal[place >> 7]!,
        this.secondOfKind[(kind << 7) | second]!,
        this.ofKind[kind]!,
      )
    );
  }

  /** What is rare on a channel is as likely as on all together. */
  private costLike(times: number, total: number, timesOfKind: number, ofKind: number): number {
    const share = (timesOfKind + little) / (ofKind + little * 128);
    return Math.min(dearest, Math.log2((total + asAll) / (times + asAll * share)));
  }

  /**
   * Bytes that are likely at some place of an event: times of one byte, the first of two, statuses, and one
   * of each kind of data.
   */
  usualBytes(): number[] {
    const times = Array.from({ length: 128 }, (_, n) => n)
      .sort((a, b) => this.delta[b]! - this.delta[a]! || a - b)
      .slice(0, mostTimes);
    return [...new Set([...times, ...longerTimes, ...this.statuses(), 0xff, 0xf0, 64])];
  }

  /** Channel statuses that the file uses most. */
  statuses(): number[] {
    const used = [...this.status.keys()].filter(
      (s) => s >= 0x80 && s < 0xf0 && this.status[s]! > 0,
    );
    return used.sort((a, b) => this.status[b]! - this.status[a]! || a - b).slice(0, mostStatuses);
  }
}

/** Where the first note-on of a track stands, if all before it is well-formed; else -1. */
export function firstNoteAt(bytes: Uint8Array, from: number, end: number): number {
  for (let at = from, running = 0; at < end;) {
    const token = tokenAt(bytes, at, end, running);
    if (!token) return -1;
    if (token.status >> 4 === 9) return at;
    ({ next: at, running } = token);
  }
  return -1;
}

/** Values of notes are counted by their status, those of controllers by their number (in the rows below 128). */
const secondPlace = (status: number, first: number, second: number): number =>
  (((status & 0xf0) === 0xb0 ? first : status) << 7) | second;

/** What has not been seen counts as a tenth of a time. */
const little = 0.1;
/** What all channels together do counts as so many times on each. */
const asAll = 4;
const costOf = (times: number, total: number, kinds: number): number =>
  Math.min(dearest, Math.log2((total + little * kinds) / (times + little)));

/** log₂ of whole numbers, most of them small. */
const smallBits = Float64Array.from({ length: 4100 }, (_, n) => Math.log2(n));
const bitsOf = (n: number): number => (n < smallBits.length ? smallBits[n]! : Math.log2(n));

/** An event as the counts see it. */
export interface Token {
  readonly delta: number;
  readonly explicit: boolean;
  readonly status: number;
  readonly first: number;
  readonly second: number | undefined;
  readonly next: number;
  readonly running: number;
}

/** The well-formed event at `at`, or undefined. */
export function tokenAt(
  bytes: Uint8Array,
  at: number,
  end: number,
  running: number,
): Token | undefined {
  const delta = readQuantity(bytes, at, end);
  if (delta.cut || delta.tooLong || delta.next >= end) return undefined;
  let next = delta.next;
  const explicit = bytes[next]! > 0x7f;
  const status = explicit ? bytes[next++]! : running;
  if (status === 0) return undefined;
  if (status >= 0xf0) {
    const behind = passPayload(bytes, next, end, status);
    return behind === -1
      ? undefined
      : {
          delta: delta.value,
          explicit,
          status,
          first: 0,
          second: undefined,
          next: behind,
          running: 0,
        };
  }
  const first = bytes[next]!;
  const second = (status & 0xe0) === 0xc0 ? undefined : bytes[next + 1]!;
  next += second === undefined ? 1 : 2;
  if (next > end || first > 0x7f || (second ?? 0) > 0x7f) return undefined;
  return { delta: delta.value, explicit, status, first, second, next, running: status };
}

/** Behind a meta or system exclusive event whose status stands before `at`, or −1. */
function passPayload(bytes: Uint8Array, at: number, end: number, status: number): number {
  if (status !== 0xff && status !== 0xf0 && status !== 0xf7) return -1;
  const length = readQuantity(bytes, status === 0xff ? at + 1 : at, end);
  return length.cut || length.next + length.value > end ? -1 : length.next + length.value;
}
