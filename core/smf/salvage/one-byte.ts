import { readQuantity } from '../variable-length.ts';
import { eventAt, type Priced } from './event-cost.ts';
import { closeBy, type DamagedTrack, type Guess } from './guess.ts';

/**
 * Bytes of an event, from its beginning, that are taken to be the damaged one: further on lie only
 * payloads, in which it does no harm.
 */
const longestHead = 10;
const longestTime = 4;
/** An event that is believed for less is not looked at for a byte that leaves all behind it where it is. */
const believed = 36;

/** A byte of a track that was lost, or that another stands in place of. */
export type OneByte = 'lost' | 'replaced';

/**
 * The guesses that a single byte is damaged, each with the likeliest byte at its place: the one with which
 * all before it and behind it reads as events. `cost` is what the track costs then, without the damage
 * itself; dearer ones than `most` are none. Only as far as the track reads from its beginning.
 */
export function oneByte(
  { bytes, body, end, costs, suffixes }: DamagedTrack,
  kind: OneByte,
  most: number,
): Guess[] {
  const longer = kind === 'lost' ? 1 : 0;
  const trial = new Wildcard(bytes, body, end, longer);
  const values = costs.usualBytes();
  const found = new Map<string, Guess>();
  let [at, running, before, row, least] = [body, 0, 0, 0, most];
  const consider = (place: number, value: number, event: Priced | undefined): void => {
    trial.set(place, value);
    const whole = eventAt(trial.bytes, at - body, trial.bytes.length, running, costs);
    if (!whole?.clean || whole.next + body <= place) return;
    const next = whole.next + body - longer;
    if (
      longer === 0 &&
      event?.clean &&
      event.cost < believed &&
      next === event.next &&
      whole.running === event.running
    )
      return;
    const cost =
      before +
      whole.cost +
      (whole.ends ? (next === end ? 0 : Infinity) : suffixes.after(next, whole.running));
    if (cost >= most) return;
    const key = `${place} ${next} ${whole.running}`;
    if (cost >= (found.get(key)?.cost ?? Infinity)) return;
    least = Math.min(least, cost);
    const inTime = readQuantity(trial.bytes, at - body, trial.bytes.length).next + body > place;
    found.set(key, {
      at: place,
      to: place + 1 - longer,
      by: Uint8Array.of(value),
      cost,
      row,
      ...(inTime ? { timeAt: at } : {}),
    });
  };
  /** Whether any reading behind the event at hand may yet be as likely as the best so far. */
  const mayBe = (): boolean => {
    const farthest = at + longestHead + longestTime;
    if (farthest >= end) return true;
    for (let next = at + 1; next <= farthest; next++)
      if (before + suffixes.least(next) < Math.min(most, least + closeBy)) return true;
    return false;
  };
  while (at < end && before < least) {
    const event = eventAt(bytes, at, end, running, costs);
    const last = Math.min(end, (event?.next ?? end) + longer - 1, at + longestHead);
    const tried = event && event.next - at > longestHead ? everyByte : values;
    if (tried === everyByte || mayBe())
      for (let place = at; place <= last; place++)
        for (const value of tried) consider(place, value, event);
    if (!event?.clean || event.ends) break;
    before += event.cost;
    row++;
    ({ next: at, running } = event);
  }
  return [...found.values()];
}

const everyByte: readonly number[] = Array.from({ length: 256 }, (_, n) => n);

/** A track with any byte at a place, which goes forward with little work. */
class Wildcard {
  readonly bytes: Uint8Array;
  private place = 0;
  private readonly source: Uint8Array;
  private readonly body: number;
  private readonly longer: number;

  constructor(source: Uint8Array, body: number, end: number, longer: number) {
    this.bytes = new Uint8Array(end - body + longer);
    this.bytes.set(source.subarray(body, end), longer);
    this.source = source;
    this.body = body;
    this.longer = longer;
  }

  /** Sets `value` at `place` of the source: before the byte that stands there, or instead of it. */
  set(place: number, value: number): void {
    const to = place - this.body;
    for (; this.place < to; this.place++)
      this.bytes[this.place] = this.source[this.body + this.place]!;
    for (; this.place > to; this.place--)
      this.bytes[this.place] = this.source[this.body + this.place - this.longer]!;
    this.bytes[to] = value;
  }
}
