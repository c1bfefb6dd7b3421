import { concatBytes } from '../chunks.ts';
import { endTick, type Events } from '../events.ts';
import { Effort, ProblemLog, TrackLog } from '../problem-log.ts';
import { readTrack } from '../read-track.ts';
import { readQuantity } from '../variable-length.ts';
import type { Onsets } from './lost-time.ts';
import type { SharedEnds } from './shared-ends.ts';
import type { Suffixes } from './suffixes.ts';
import type { TokenCosts } from './token-costs.ts';

/** The bytes of a damaged track, from `body` to `end`, and what is usual in it. */
export interface DamagedTrack {
  readonly bytes: Uint8Array;
  readonly body: number;
  readonly end: number;
  readonly costs: TokenCosts;
  readonly suffixes: Suffixes;
}

/** What may have happened to a track: in place of its bytes from `at` to `to` others stood. */
export interface Guess {
  readonly at: number;
  readonly to: number;
  readonly by: Uint8Array;
  /** What the track costs as events then, in bits: the less, the likelier. */
  readonly cost: number;
  /** Rows of events before it. */
  readonly row: number;
  /** Where the time begins that the byte is part of, which other values would fit as well. */
  readonly timeAt?: number;
}

/** A track as it reads by a guess. */
export interface Guessed {
  readonly guess: Guess;
  readonly events: Events;
}

/** Guesses that are so much dearer than the best are not looked at; of the others so many. */
export const closeBy = 30;
const mostTried = 40;

/**
 * The guess by which the music fits best among those that are about as likely by their bytes; undefined
 * where there is none.
 */
export function bestGuess(
  track: DamagedTrack,
  guesses: readonly Guess[],
  learnt: () => Onsets,
  ends: SharedEnds,
): Guessed | undefined {
  if (guesses.length === 0) return undefined;
  const onsets = learnt();
  const sorted = [...guesses].sort((a, b) => a.cost - b.cost);
  const close = sorted.filter((g) => g.cost <= sorted[0]!.cost + closeBy).slice(0, mostTried);
  learnBefore(readAs(track, close[0]!), Math.min(...close.map((g) => g.row)), onsets);
  let best: (Guessed & { score: number }) | undefined;
  for (const guess of close) {
    const { events, cost } = atItsTime(track, guess, onsets, ends);
    const fit = close.length > 1 ? onsets.fitOf(events) + ends.fit(endTick(events)) : 0;
    const score = cost - fit;
    if (!best || score < best.score) best = { guess, events, score };
  }
  return best;
}

/** Learns where the notes begin that no guess moves. */
function learnBefore(events: Events, row: number, onsets: Onsets): void {
  for (let i = 0; i < row; i++)
    if (events.status[i]! >> 4 === 9 && events.data2[i]! > 0) onsets.add(events, i, 0);
}

/**
 * The track's events by a guess; a time of which it knows but a part is the one that puts what follows
 * where it fits.
 */
function atItsTime(
  track: DamagedTrack,
  guess: Guess,
  onsets: Onsets,
  ends: SharedEnds,
): { events: Events; cost: number } {
  const events = readAs(track, guess);
  const { body, costs } = track;
  const { row, timeAt } = guess;
  if (timeAt === undefined) return { events, cost: guess.cost };
  const whole = repaired(track, guess);
  const { value, next } = readQuantity(whole, timeAt - body, whole.length);
  const same = sameMusic(events, row);
  const likely = new Map(
    timesWith(whole, timeAt - body, guess.at - body, next).map((t) => [
      t,
      (same.get(t) ?? 0) + ends.fit(endTick(events) + t - value) - costs.deltaCost(t, timeAt),
    ]),
  );
  const time = onsets.bestOf(events, row, -value, likely);
  const cost = guess.cost + costs.deltaCost(time, timeAt) - costs.deltaCost(value, timeAt);
  return {
    events:
      time === value
        ? events
        : {
            ...events,
            atTick: events.atTick.map((tick, n) => (n < row ? tick : tick + time - value)),
          },
    cost,
  };
}

const repaired = ({ bytes, body, end }: DamagedTrack, { at, to, by }: Guess): Uint8Array =>
  concatBytes([bytes.subarray(body, at), by, bytes.subarray(to, end)]);

function readAs(track: DamagedTrack, guess: Guess): Events {
  const whole = repaired(track, guess);
  return readTrack(whole, 0, whole.length, new TrackLog(new ProblemLog(), 0, new Effort(0))).events;
}

/**
 * Events before and behind a time that are compared with those elsewhere; from how many that are the same
 * on it is the same music.
 */
const compared = 8;
const leastAlike = 4;

/**
 * Times before the same events elsewhere in the track, behind the same ones as well, and how many bits
 * speak for each.
 */
function sameMusic(
  { atTick, status, data1, data2, count }: Events,
  row: number,
): Map<number, number> {
  const found = new Map<number, number>();
  const same = (a: number, b: number): boolean =>
    status[a] === status[b] && data1[a] === data1[b] && data2[a] === data2[b];
  const delta = (i: number): number => atTick[i]! - (atTick[i - 1] ?? 0);
  for (let other = 1; other < count; other++) {
    if (other === row || !same(other, row)) continue;
    let alike = 1;
    for (
      let n = 1;
      n < compared &&
      row + n < count &&
      other + n < count &&
      same(row + n, other + n) &&
      delta(row + n) === delta(other + n);
      n++
    )
      alike++;
    for (let n = 1; n < compared && n <= row && n <= other && same(row - n, other - n); n++)
      alike++;
    if (alike >= leastAlike)
      found.set(delta(other), Math.max(found.get(delta(other)) ?? 0, alike * bitsAlike));
  }
  return found;
}

/** What an event that is the same speaks for. */
const bitsAlike = 1.5;

/** The times that stand at `at` with any byte at `place` that leaves them as many bytes. */
function timesWith(whole: Uint8Array, at: number, place: number, next: number): number[] {
  const time = whole.slice(at, next);
  const high = time[place - at]! & 0x80;
  return Array.from({ length: 128 }, (_, value) => {
    time[place - at] = high | value;
    return readQuantity(time, 0, time.length).value;
  });
}
