import { ticksPerSecond, type Division } from '../division.ts';
import { EventBuilder } from '../event-builder.ts';
import { META, endTick, meta, type Events } from '../events.ts';
import type { Effort } from '../problem-log.ts';
import { wholeEventAt } from '../read-track.ts';
import { readQuantity } from '../variable-length.ts';
import { Onsets } from './lost-time.ts';
import { damageCost, realign, type Alignment } from './realign.ts';
import { TokenCosts } from './token-costs.ts';
import { usualRun } from './usual-run.ts';

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

/** What was found when a damaged track was read again. */
export interface Mended {
  readonly events: Events;
  /** Bytes that could not be understood, and where the first of them stands. */
  readonly lost: number;
  readonly at: number;
}

/**
 * Reads a damaged track again: bytes that are no events are told from those that are by what is usual in this file, and what follows
 * a damage is put back where it stood, as well as the rest of the song can tell. Undefined where the first reading is as good.
 */
export function mendTrack(bytes: Uint8Array, track: FirstReading, all: readonly FirstReading[], division: Division, effort: Effort): Mended | undefined {
  const length = track.end - track.body;
  if (length < 8 || length > mostBytes || !effort.spend(length * 4)) return undefined;
  const others = all.filter((t) => t !== track && !t.damaged);
  const costs = new TokenCosts();
  for (const { body, end } of others) if (effort.spend(end - body)) costs.count(bytes, body, end);
  const { from, to } = usualRun(bytes, track.body, track.end);
  costs.count(bytes, from, to);
  costs.settle();
  let first = realign(bytes, track.body, track.end, costs, damageCost.suspected);
  // Its length tells that bytes are missing or too many: what is odd enough to be the place is looked for once more.
  if (isWhole(first) && track.missing !== 0) first = realign(bytes, track.body, track.end, costs, damageCost.certain);
  if (isWhole(first)) return undefined;
  const { events, jumps } = eventsOf(bytes, track.end, first);
  const lost = first.gaps.reduce((sum, g) => sum + g.to - g.from, 0);
  // As long as a byte lasts in what was read, as long should those that are lost have lasted.
  const ticksPerByte = endTick(events) / Math.max(1, length);
  const usual = { ticksPerByte, missing: first.gaps.length > 0 ? track.missing / first.gaps.length : 0 };
  const placed = placeJumps(bytes, events, jumps, new Onsets(ticksPerBeat(division), others.map((t) => t.events)), usual);
  return { events: placed, lost, at: first.gaps[0]?.from ?? track.body };
}

const isWhole = ({ gaps, guessed }: Alignment): boolean => gaps.length === 0 && guessed === 0;

/** Where a beat is not stated, half a second stands for it. */
const ticksPerBeat = (division: Division): number => (division.kind === 'ppq' ? division.ticksPerQuarter : ticksPerSecond(division) / 2);

/** Bytes that are no events, and the row of the event behind them. */
interface Jump {
  readonly from: number;
  readonly to: number;
  readonly row: number;
}

function eventsOf(bytes: Uint8Array, end: number, { events, gaps }: Alignment): { events: Events; jumps: Jump[] } {
  const out = new EventBuilder(events.length + 1);
  const jumps: Jump[] = [];
  let tick = 0;
  let gap = 0;
  for (const [n, { at, running }] of events.entries()) {
    while (gaps[gap]?.before === n) jumps.push({ ...gaps[gap++]!, row: out.count });
    tick = wholeEventAt(bytes, at, end, tick, running, out);
  }
  const last = out.count - 1;
  if (last < 0 || out.status[last] !== META || out.data1[last] !== meta.endOfTrack) out.add(tick, META, meta.endOfTrack, 0);
  return { events: out.finish(bytes), jumps };
}

/** The events with what follows each jump moved by the time that the jump most likely took. */
function placeJumps(bytes: Uint8Array, events: Events, jumps: readonly Jump[], onsets: Onsets, usual: { ticksPerByte: number; missing: number }): Events {
  const atTick = events.atTick.slice();
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
    const until = jumps[n + 1]?.row ?? events.count;
    const likely = timesIn(bytes, jump);
    const expected = Math.max(0, jump.to - jump.from + usual.missing) * usual.ticksPerByte;
    shift += onsets.bestShift(events, jump.row, until, shift, expected, likely);
  }
  pass(events.count);
  return { ...events, atTick };
}

/** Times that the lost bytes may have said: none, or any quantity that stands in them. */
function timesIn(bytes: Uint8Array, { from, to }: Jump): ReadonlySet<number> {
  const times = new Set([0]);
  for (let at = from; at < Math.min(to, from + 64); at++) {
    const quantity = readQuantity(bytes, at, to);
    if (!quantity.cut && !quantity.tooLong && quantity.value < 1_000_000) times.add(quantity.value);
  }
  return times;
}
