import { ticksPerSecond, type Division } from '../division.ts';
import { EventBuilder } from '../event-builder.ts';
import { META, endTick, meta, type Events } from '../events.ts';
import type { Effort } from '../problem-log.ts';
import { wholeEventAt } from '../read-track.ts';
import { readQuantity } from '../variable-length.ts';
import { hungNotes, whereEndsWereLost, withLostEnds } from './lost-ends.ts';
import { bestGuess, type Guess } from './guess.ts';
import { LostTime, type Jump } from './how-long.ts';
import { Onsets } from './lost-time.ts';
import { oneByte } from './one-byte.ts';
import { putIn } from './put-in.ts';
import { damageCost, noiseCost, realign, type Alignment } from './realign.ts';
import { SharedEnds } from './shared-ends.ts';
import { silentLoss } from './silent-loss.ts';
import { Suffixes } from './suffixes.ts';
import { withSweeps } from './sweeps.ts';
import { TokenCosts, firstNoteAt } from './token-costs.ts';
import { firstUnpaired } from './unpaired.ts';
import { usualRuns } from './usual-run.ts';

/** A track as it was first read, and where its bytes lie. */
export interface FirstReading {
  readonly events: Events;
  readonly body: number;
  readonly end: number;
  /** Its bytes show that something happened to them. */
  readonly damaged: boolean;
  /** Bytes fewer than its length states; below 0 more; 0 where it says nothing. */
  readonly missing: number;
}

/** Larger tracks are left as they were first read. */
const mostBytes = 1_000_000;
/** Of fewer events it cannot be learnt what is usual. */
const leastLearnt = 12;
/** What reading even the smallest track again costs, in bytes gone over. */
const leastEffort = 100_000;

/** What was found when a damaged track was read again. */
export interface Mended {
  readonly events: Events;
  /** Bytes that could not be understood, and where the first of them stands. */
  readonly lost: number;
  readonly at: number;
  /**
   * Where what follows was put elsewhere though no byte was passed over: time was lost without a trace, or
   * stated that cannot be.
   */
  readonly moved?: { readonly atTick: number; readonly ticks: number };
}

/**
 * Reads a damaged track again: bytes that are no events are told from those that are by what is usual in
 * this file, and what follows a damage is put back where it stood, as well as the rest of the song, its
 * `sound` tracks, can tell. Undefined where the first reading is as good.
 */
export function mendTrack(
  bytes: Uint8Array,
  track: FirstReading,
  sound: readonly FirstReading[],
  division: Division,
  effort: Effort,
): Mended | undefined {
  const length = track.end - track.body;
  const others = sound.filter((t) => t !== track);
  if (
    length < 8 ||
    length > mostBytes ||
    !effort.spend(leastEffort + length * 4 + others.reduce((sum, t) => sum + t.end - t.body, 0))
  )
    return undefined;
  const costs = learn(bytes, track, others);
  if (costs.events < leastLearnt) return undefined;
  const found = explain(bytes, track, costs);
  const ends = new SharedEnds(others.map((t) => t.events));
  const single = byOneDamage(
    bytes,
    track,
    costs,
    found,
    () =>
      new Onsets(
        ticksPerBeat(division),
        others.map((t) => t.events),
      ),
    ends,
  );
  if (single) return single;
  const { events, jumps: gaps } = isWhole(found)
    ? { events: track.events, jumps: [] }
    : eventsOf(bytes, track.end, found, costs);
  const starts = found.events.map((e) => e.at);
  const onsets = new Onsets(
    ticksPerBeat(division),
    others.map((t) => t.events),
  );
  const songEnd = others.reduce((last, t) => Math.max(last, endTick(t.events)), 0);
  const lostEnds = isWhole(found) ? endsLostSilently(events, track, others) : undefined;
  const jumps = [
    ...gaps,
    ...(isWhole(found) ? lostSilently(bytes, events, starts, track, onsets, lostEnds) : []),
    ...tooLong(events, songEnd, suspectFrom(events, gaps)),
  ]
    .sort((a, b) => a.row - b.row)
    .map(distrustedOnce);
  if (jumps.length === 0 && isWhole(found) && lostEnds === undefined) return undefined;
  const lasted = new LostTime(bytes, events, starts, jumps, track);
  const placed = placeJumps(events, jumps, onsets, lasted, ends);
  return {
    ...placed,
    events: withLostEnds(
      placed.events,
      [...jumps.map((g) => g.row), ...(lostEnds === undefined ? [] : [lostEnds])].sort(
        (a, b) => a - b,
      ),
    ),
    lost: lostBytes(found),
    at: found.gaps[0]?.from ?? track.body,
  };
}

/** The track as a single damage explains it, where that is likelier than any other way to read it. */
function byOneDamage(
  bytes: Uint8Array,
  { body, end, missing }: FirstReading,
  costs: TokenCosts,
  otherwise: Alignment,
  onsets: () => Onsets,
  ends: SharedEnds,
): Mended | undefined {
  const track = { bytes, body, end, costs, suffixes: new Suffixes(bytes, body, end, costs) };
  const guesses = (): Guess[] => {
    const below = (damage: number): number => otherwise.cost - damage;
    if (missing < 0)
      return putIn(track, -missing, below(Math.max(4, -missing * noiseCost - damageCost.certain)));
    if (missing === 1) return oneByte(track, 'lost', below(damageCost.certain));
    if (missing > 1 || isWhole(otherwise)) return [];
    return oneByte(track, 'replaced', below(damageCost.suspected + noiseCost));
  };
  const best = bestGuess(track, guesses(), onsets, ends);
  if (!best) return undefined;
  const { at, to, row } = best.guess;
  // Of a byte that was guessed the value may be another: an end of a note on the wrong key ends none.
  return {
    events: withLostEnds(best.events, [row + 1]),
    lost: to - at,
    at,
  };
}

/** What is usual in the whole tracks and in what of this one reads alike. */
function learn(
  bytes: Uint8Array,
  track: FirstReading,
  others: readonly FirstReading[],
): TokenCosts {
  const costs = new TokenCosts();
  for (const { body, end } of others) costs.count(bytes, body, end);
  for (const { from, to, running } of usualRuns(bytes, track.body, track.end))
    costs.count(bytes, from, to, running);
  costs.musicAt = firstNoteAt(bytes, track.body, track.end);
  return costs;
}

/** An event beside bytes that were put in may go with them. */
const mostBeside = 4;

/** The likeliest reading of a track. */
function explain(
  bytes: Uint8Array,
  { body, end, missing }: FirstReading,
  costs: TokenCosts,
): Alignment {
  const first = withSweeps(bytes, end, realign(bytes, body, end, costs, damageCost.suspected));
  if (!isWhole(first) || missing >= 0) return first;
  // Its length tells that there are bytes too many: they are looked for once more, among what is only a little odd.
  const again = withSweeps(bytes, end, realign(bytes, body, end, costs, damageCost.certain));
  return again.gaps.length === 1 && Math.abs(lostBytes(again) + missing) <= mostBeside
    ? again
    : first;
}

/** Where bytes that are missing without a trace have cost time, if anything tells. */
function lostSilently(
  bytes: Uint8Array,
  events: Events,
  starts: readonly number[],
  { missing }: FirstReading,
  onsets: Onsets,
  lostEnds: number | undefined,
): Jump[] {
  const near =
    missing > 0 ? (lostEnds ?? firstUnpaired(events) ?? onsets.breakIn(events)) : undefined;
  const found = missing > 0 ? silentLoss(bytes, events, starts, near, missing) : undefined;
  const row = found?.row ?? near;
  // A rest before the music stays.
  if (row === undefined || row <= firstNote(events)) return [];
  const at = starts[row] ?? 0;
  return [{ from: at, to: at, row, distrusted: 0, ...(found ? { told: found.ticks } : {}) }];
}

/** The row before which ends of notes are missing with other bytes, unless notes hang in sound tracks as well. */
const endsLostSilently = (
  events: Events,
  { missing }: FirstReading,
  others: readonly FirstReading[],
): number | undefined =>
  missing > 0 && others.every((t) => hungNotes(t.events).length === 0)
    ? whereEndsWereLost(events)
    : undefined;

const isWhole = ({ gaps, guessed }: Alignment): boolean => gaps.length === 0 && guessed === 0;

const lostBytes = ({ gaps }: Alignment): number => gaps.reduce((sum, g) => sum + g.to - g.from, 0);

/** Where a beat is not stated, half a second stands for it. */
const ticksPerBeat = (division: Division): number =>
  division.kind === 'ppq' ? division.ticksPerQuarter : ticksPerSecond(division) / 2;

function eventsOf(
  bytes: Uint8Array,
  end: number,
  { events, gaps }: Alignment,
  costs: TokenCosts,
): { events: Events; jumps: Jump[] } {
  const out = new EventBuilder(events.length + 1);
  const jumps: Jump[] = [];
  let tick = 0;
  let gap = 0;
  for (const [n, { at, running }] of events.entries()) {
    // A time behind a gap that comes nowhere else is as likely made of bytes that were none.
    const { value } = readQuantity(bytes, at, end);
    while (gaps[gap]?.before === n)
      jumps.push({
        ...gaps[gap++]!,
        row: out.count,
        distrusted: costs.isKnownTime(value) ? 0 : value,
      });
    tick = wholeEventAt(bytes, at, end, tick, running, out);
  }
  const last = out.count - 1;
  if (last < 0 || out.status[last] !== META || out.data1[last] !== meta.endOfTrack)
    out.add(tick, META, meta.endOfTrack, 0);
  return { events: out.finish(bytes), jumps };
}

/** Events that may be read out of step before bytes show that are none. */
const mostOutOfStep = 12;

/**
 * The row from which on times may be damaged: shortly before the first gap, but behind the first note where
 * that is sound; a rest before the music stays.
 */
function suspectFrom(events: Events, gaps: readonly Jump[]): number {
  const music = firstNote(events) + 1;
  const gap = gaps[0]?.row;
  return gap === undefined ? music : Math.min(gap, Math.max(music, gap - mostOutOfStep));
}

/** The row of the first note-on; -1 where there is none. */
const firstNote = (events: Events): number =>
  events.status.findIndex((status, row) => status >> 4 === 9 && events.data2[row]! > 0);

/**
 * Times from row `from` on that are longer than all the rest of the song: a damaged track that says so is
 * not believed.
 */
function tooLong({ count, atTick }: Events, songEnd: number, from: number): Jump[] {
  let rest = count > 0 ? atTick[count - 1]! : 0;
  const long: Jump[] = [];
  const deltas = Array.from({ length: count }, (_, row) => ({
    row,
    delta: atTick[row]! - (atTick[row - 1] ?? 0),
  })).sort((a, b) => b.delta - a.delta);
  for (const { row, delta } of deltas) {
    rest -= delta;
    if (delta === 0 || delta <= Math.max(songEnd, rest)) break;
    if (row >= from) long.push({ from: 0, to: 0, row, distrusted: delta });
  }
  return long;
}

/** Of jumps before one event only the first takes its time away. They are in the order of their rows. */
function distrustedOnce(jump: Jump, n: number, all: readonly Jump[]): Jump {
  for (let m = n - 1; all[m]?.row === jump.row; m--)
    if (all[m]!.distrusted > 0) return { ...jump, distrusted: 0 };
  return jump;
}

/** The events with what follows each jump moved by the time that the jump most likely took. */
function placeJumps(
  events: Events,
  jumps: readonly Jump[],
  onsets: Onsets,
  lasted: LostTime,
  ends: SharedEnds,
): Pick<Mended, 'events' | 'moved'> {
  const atTick = events.atTick.slice();
  let moved: Mended['moved'];
  let shift = 0;
  let row = 0;
  const pass = (to: number): void => {
    for (; row < to; row++) {
      atTick[row] = events.atTick[row]! + shift;
      if (events.status[row]! >> 4 === 9 && events.data2[row]! > 0) onsets.add(events, row, shift);
    }
  };
  for (const [n, jump] of jumps.entries()) {
    pass(jump.row);
    const before = shift;
    shift -= jump.distrusted;
    const until = jumps[n + 1]?.row ?? events.count;
    const likely = lasted.likely(jump);
    if (until === events.count)
      for (const [time, bits] of ends.after(endTick(events) + shift))
        likely.set(time, (likely.get(time) ?? 0) + bits);
    shift += onsets.bestShift(events, jump.row, until, shift, lasted.expected(jump), likely);
    if (jump.from === jump.to && shift !== before)
      moved ??= { atTick: events.atTick[jump.row]! + shift, ticks: shift - before };
  }
  pass(events.count);
  return { events: { ...events, atTick }, ...(moved ? { moved } : {}) };
}
