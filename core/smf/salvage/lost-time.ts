import type { Events } from '../events.ts';

/**
 * Note-ons that count to tell how long a damage lasted, and those that are looked at behind it: more of them
 * tell it better, and speak no louder against what else is known.
 */
const mostOnsets = 64;
const mostBehind = 256;
/** Notes that begin together speak for each other, not each for itself. */
const trust = 0.5;
/**
 * A place where time was lost is believed from so many bits on; what is usual is learnt from the others and
 * from so much of the track, so many onsets at the least.
 */
const leastGain = 40;
const learntFrom = 0.25;
const leastOnsets = 32;
/**
 * Ticks that a damage is taken to have lasted at most, and places that are compared to find where one was:
 * bounds for odd resolutions.
 */
const mostLost = 50_000;
const mostCompared = 20_000_000;
/** Times that are looked at closely: those that fit the beat best. */
const mostTried = 200;

/**
 * Where notes begin in this song: in the bar by drum or key, in the beat, and on which ticks over all. What
 * a damage cost in time is what puts the notes behind it where such notes stand.
 */
export class Onsets {
  private readonly beat: number;
  private readonly bar: number;
  private readonly inBeat: Float64Array;
  private readonly inBar = new Map<number, number>();
  private readonly ofKey = new Map<number, number>();
  private readonly elsewhere = new Set<number>();
  private readonly last: number;
  private count = 0;
  /** Onsets of the damaged track, and those of them that another track's stand on. */
  private own = 0;
  private together = 0;

  /** `ticksPerBeat` of the division; `others`: tracks that are whole, with which the damaged one agrees in time. */
  constructor(ticksPerBeat: number, others: readonly Events[]) {
    this.beat = Math.max(1, Math.round(ticksPerBeat));
    this.bar = this.beat * 4;
    this.inBeat = new Float64Array(this.beat);
    let last = 1;
    for (const events of others) {
      for (let i = 0; i < events.count; i++) {
        if (!isOnset(events, i)) continue;
        this.learn(keyOf(events, i), events.atTick[i]!);
        this.elsewhere.add(events.atTick[i]!);
        last = Math.max(last, events.atTick[i]!);
      }
    }
    this.last = last;
  }

  /** Learns an onset of the damaged track, at its place. */
  add(events: Events, i: number, shift: number): void {
    const tick = events.atTick[i]! + shift;
    this.own++;
    if (this.elsewhere.has(tick)) this.together++;
    this.learn(keyOf(events, i), tick);
  }

  private learn(key: number, tick: number): void {
    this.inBeat[tick % this.beat]!++;
    const place = key * this.bar + (tick % this.bar);
    this.inBar.set(place, (this.inBar.get(place) ?? 0) + 1);
    this.ofKey.set(key, (this.ofKey.get(key) ?? 0) + 1);
    this.count++;
  }

  /** How well an onset fits at a tick, in bits against standing anywhere. */
  fit(key: number, tick: number): number {
    if (this.count === 0) return 0;
    const beat = (this.beat * this.inBeat[tick % this.beat]!) / this.count;
    const times = this.ofKey.get(key) ?? 0;
    const bar =
      times === 0
        ? beat
        : (this.bar * (this.inBar.get(key * this.bar + (tick % this.bar)) ?? 0)) / times;
    const alone = Math.log2(0.5 * bar + 0.4 * beat + 0.1);
    if (this.elsewhere.size === 0) return alone;
    const chance = Math.min(0.99, this.elsewhere.size / this.last);
    const usual = (this.together + 1) / (this.own + 2);
    return (
      alone + Math.log2(this.elsewhere.has(tick) ? usual / chance : (1 - usual) / (1 - chance))
    );
  }

  /** How well all onsets of a track fit, in bits: no more of them together than speak for one time. */
  fitOf(events: Events): number {
    let [fit, many] = [0, 0];
    for (let i = 0; i < events.count; i++) {
      if (!isOnset(events, i)) continue;
      fit += this.fit(keyOf(events, i), events.atTick[i]!);
      many++;
    }
    return (trust * fit * Math.min(mostOnsets, many)) / Math.max(1, many);
  }

  /**
   * Of some times that which puts the onsets from row `from` on, which stand `shift` later than their
   * columns say, where they fit; `likely`: what speaks for each, in bits.
   */
  bestOf(events: Events, from: number, shift: number, likely: ReadonlyMap<number, number>): number {
    const rows = this.onsetsFrom(events, from, events.count, mostOnsets);
    let best = { time: 0, score: -Infinity };
    for (const [time, bits] of likely) {
      const score = rows.reduce(
        (sum, i) =>
          sum + trust * this.fit(keyOf(events, i), Math.max(0, events.atTick[i]! + shift + time)),
        bits,
      );
      if (score > best.score) best = { time, score };
    }
    return best.time;
  }

  private onsetsFrom(events: Events, from: number, to: number, most: number): number[] {
    const rows: number[] = [];
    for (let i = from; i < to && rows.length < most; i++) if (isOnset(events, i)) rows.push(i);
    return rows;
  }

  /**
   * The row from which on the onsets of a track stand beside the beat where they stood on it before, as
   * they do behind bytes that are missing without a trace; undefined where nothing speaks for such a place.
   */
  breakIn(events: Events): number | undefined {
    const rows: number[] = [];
    for (let i = 0; i < events.count; i++) if (isOnset(events, i)) rows.push(i);
    const phases = rows.map((i) => events.atTick[i]! % this.beat);
    const known = this.inBeat.slice();
    const learnt = Math.ceil(rows.length * learntFrom);
    for (const phase of phases.slice(0, learnt)) known[phase]!++;
    if (this.count + learnt < leastOnsets || rows.length * this.beat > mostCompared)
      return undefined;
    const fits = known.map((n) => Math.log2((0.9 * this.beat * n) / (this.count + learnt) + 0.1));
    let best = { gain: leastGain, row: -1 };
    for (let shift = 1; shift < this.beat; shift++) {
      let gain = 0;
      for (let n = rows.length - 1; n >= 0; n--) {
        gain += fits[(phases[n]! + shift) % this.beat]! - fits[phases[n]!]!;
        if (gain > best.gain) best = { gain, row: rows[n]! };
      }
    }
    return best.row === -1 ? undefined : best.row;
  }

  /**
   * The time in ticks that puts the onsets from row `from` on, which stand `shift` later than their columns
   * say, where they fit. `expected`: as long as the lost bytes should have lasted; `likely`: times that
   * something else speaks for, and by how many bits.
   */
  bestShift(
    events: Events,
    from: number,
    to: number,
    shift: number,
    expected: number,
    likely: ReadonlyMap<number, number>,
  ): number {
    const rows = this.onsetsFrom(events, from, to, mostBehind);
    const weight = trust * Math.min(1, mostOnsets / rows.length);
    const most = Math.min(
      mostLost,
      Math.ceil(
        Math.max(
          this.bar,
          Math.min(expected * 4, this.bar * 8),
          ...[...likely.keys()].filter((t) => t < this.bar * 8),
        ),
      ),
    );
    const onBeat = Float64Array.from(this.inBeat, (n) =>
      Math.log2((0.9 * this.beat * n) / Math.max(1, this.count) + 0.1),
    );
    const roughly = (lost: number): number => {
      let score = -unlikeliness(lost, expected, this.beat) + (likely.get(lost) ?? 0);
      for (const i of rows)
        score += weight * onBeat[(events.atTick[i]! + shift + lost) % this.beat]!;
      return score;
    };
    const exactly = (lost: number): number => {
      let score = -unlikeliness(lost, expected, this.beat) + (likely.get(lost) ?? 0);
      for (const i of rows)
        score += weight * this.fit(keyOf(events, i), events.atTick[i]! + shift + lost);
      return score;
    };
    const best = bestOf(most, roughly, mostTried);
    return best.reduce((a, b) => (exactly(b) > exactly(a) ? b : a), best[0] ?? 0);
  }
}

/** The numbers from 0 to `most` that score best, so many of them. */
function bestOf(most: number, score: (n: number) => number, many: number): number[] {
  const all = Array.from({ length: most + 1 }, (_, n) => ({ n, score: score(n) }));
  return all
    .sort((a, b) => b.score - a.score)
    .slice(0, many)
    .map(({ n }) => n);
}

/** In bits: how far a time is from what is expected, against how far such expectations are off. */
const unlikeliness = (lost: number, expected: number, beat: number): number =>
  (1.44 * 5 * Math.abs(lost - expected)) / (expected + beat / 8);

const isOnset = (events: Events, i: number): boolean =>
  events.status[i]! >> 4 === 9 && events.data2[i]! > 0;
const keyOf = (events: Events, i: number): number =>
  ((events.status[i]! & 15) << 7) | events.data1[i]!;
