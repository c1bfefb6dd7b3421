import { TokenCosts, firstNoteAt, tokenAt, type Token } from './token-costs.ts';

/** A stretch of bytes that reads as events which are like each other. */
export interface Run {
  readonly from: number;
  readonly to: number;
  /** The status that runs on where it begins; 0 where its first event states one. */
  readonly running: number;
}

/** Where no status comes for so many bytes one runs on. */
const farApart = 32;
/** Places from which a stretch is looked for, evenly over the track: a damage may stand at any. */
const starts = 6;
/** Events that must be unusual among so many in a row before reading is taken to be out of step. */
const [unusual, window, settled] = [7, 16, 60];
/** Times between events in a stretch may be so much longer than in the one with the shortest. */
const asShort = 4;

/** Of the notes of a stretch so many more may pair with none than of the one where the fewest do. */
const asUnpaired = 0.15;
/** Where of all events so many are values that are given and taken back in turn, they are notes under another status. */
const asNotes = 0.6;
/** Of fewer notes it is not told how many pair. */
const leastNotes = 16;
/** Events on one running status are of three bytes, or of four: where they begin is found by trying. */
const phases = 4;

/**
 * Stretches of a damaged track that read as events like each other: what is usual in the track is learnt
 * from them. Behind a damage events may seem well-formed for long, read out of step: their parts are then
 * such as have not been seen, statuses or keys read as times are long ones, and keys that are struck are
 * not released. So of stretches that begin at places all over the track those are taken in which notes pair
 * and times between events are short, none within another.
 */
export function usualRuns(bytes: Uint8Array, from: number, end: number): Run[] {
  const runs = [runFrom(bytes, from, end, 0)];
  const noteAt = firstNoteAt(bytes, from, end);
  const noteOn = tokenAt(bytes, noteAt, end, 0)?.status ?? 0;
  for (let n = 1; n < starts; n++) {
    const place = from + Math.floor((n * (end - from)) / starts);
    const start = eventStart(bytes, place, end);
    if (start < end) runs.push(runFrom(bytes, start, end, 0));
    if (noteOn !== 0 && start > place + farApart)
      for (let phase = 0; phase < phases; phase++)
        runs.push(runFrom(bytes, place + phase, end, noteOn));
  }
  const longest = Math.max(...runs.map((r) => r.to - r.from));
  const long = runs.filter(
    (r) => (r.to - r.from) * starts >= longest && r.likeNotes < asNotes * r.events,
  );
  const fewest = Math.min(
    1,
    ...long.filter((r) => r.notes >= leastNotes).map((r) => r.unpaired / r.notes),
  );
  const paired = long.filter(
    (r) => r.notes < leastNotes || r.unpaired / r.notes <= fewest + asUnpaired,
  );
  const least = Math.min(...paired.map((r) => r.ticks / r.events));
  const usual = paired.filter((r) => r.ticks / r.events <= least * asShort);
  return usual.filter(
    (r, n) =>
      !usual.some((other, m) => m !== n && contains(other, r) && (m < n || !contains(r, other))),
  );
}

const contains = (outer: Run, inner: Run): boolean =>
  outer.from <= inner.from && inner.to <= outer.to;

interface Told extends Run {
  readonly events: number;
  readonly ticks: number;
  readonly notes: number;
  readonly unpaired: number;
  /** Values of controllers and the like that are given and taken back in turn, as keys are. */
  readonly likeNotes: number;
}

function runFrom(bytes: Uint8Array, from: number, end: number, onStatus: number): Told {
  const seen = new TokenCosts();
  const pairs = new Pairs();
  let [running, recent, ticks] = [onStatus, 0, 0];
  const steps: number[] = [];
  const run = (to: number): Told => ({
    from,
    to,
    running: onStatus,
    events: steps.length,
    ticks,
    notes: pairs.notes,
    unpaired: pairs.unpaired,
    likeNotes: pairs.likeNotes,
  });
  for (let at = from; at < end;) {
    const token = tokenAt(bytes, at, end, running);
    if (!token) return run(at);
    const odd = steps.length > settled && !seen.isUsual(token);
    recent = ((recent << 1) | Number(odd)) & ((1 << window) - 1);
    if (bits(recent) >= unusual) return run(steps[Math.max(0, steps.length - window)]!);
    // What is odd is not learnt from: out of step, the same oddities come again and again.
    if (!odd) seen.add(token);
    steps.push(at);
    ticks += token.delta;
    pairs.add(token);
    ({ next: at, running } = token);
  }
  return run(end);
}

/** Counts note messages, and those that strike a key which sounds or release one which does not. */
class Pairs {
  notes = 0;
  unpaired = 0;
  likeNotes = 0;
  private readonly sounds = new Uint8Array(16 * 128);
  private readonly given = new Uint8Array(256 * 128);

  add({ status, first, second }: Token): void {
    const kind = status >> 4;
    if (kind === 8 || kind === 9) this.addNote(status, first, kind === 9 && second! > 0);
    else if (second !== undefined && !(kind === 0xb && isSwitch(first))) {
      const place = (status << 7) | first;
      const gives = second > 0;
      if (gives !== (this.given[place] === 1)) this.likeNotes++;
      this.given[place] = Number(gives);
    }
  }

  private addNote(status: number, first: number, strikes: boolean): void {
    const key = ((status & 15) << 7) | first;
    this.notes++;
    if (strikes === (this.sounds[key] === 1)) this.unpaired++;
    this.sounds[key] = Number(strikes);
  }
}

/** Pedals are pressed and let go as keys are (MIDI 1.0, controllers 64 to 69). */
const isSwitch = (controller: number): boolean => controller >= 64 && controller <= 69;

function bits(n: number): number {
  let count = 0;
  for (let rest = n; rest > 0; rest &= rest - 1) count++;
  return count;
}

/** The next place where an event with a status of its own begins: a time of one byte before a channel status. */
function eventStart(bytes: Uint8Array, from: number, end: number): number {
  for (let at = from; at + 3 < end; at++)
    if (
      bytes[at]! < 0x80 &&
      bytes[at + 1]! > 0x7f &&
      bytes[at + 1]! < 0xf0 &&
      bytes[at + 2]! < 0x80
    )
      return at;
  return end;
}
