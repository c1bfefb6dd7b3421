import type { Events } from '../../smf/events.ts';
import { notesOf } from '../../song/notes.ts';
import { dropPressure } from '../../song/poly-pressure.ts';
import type { TickSpan } from '../../song/scope.ts';
import { bell, chanceFrom } from '../chance.ts';
import { without } from '../rewrite.ts';

/** Of all that may be varied, so much is at the most: velocity up or down, and the share of soft notes left out. */
const mostVelocity = 24;
const mostLeftOut = 0.3;

export interface Varied {
  readonly events: Events;
  readonly changed: number;
  readonly leftOut: number;
}

/**
 * Notes that begin in a span a little otherwise than they are written, by chance: louder or softer, and of
 * those between the beats that are softer than most some are not played. `amount` is 0 to 1; the same seed
 * always gives the same.
 */
export function varied(
  events: Events,
  { from, to }: TickSpan,
  amount: number,
  { seed, beatTicks }: { seed: number; beatTicks: number },
): Varied {
  const chance = chanceFrom(seed);
  const notes = notesOf(events);
  const inSpan = Array.from({ length: notes.count }, (_, n) => n).filter((n) => {
    const tick = events.atTick[notes.on[n]!]!;
    return tick >= from && tick < to;
  });
  const loud = inSpan.map((n) => events.data2[notes.on[n]!]!).sort((a, b) => a - b);
  const middle = loud[loud.length >> 1] ?? 0;
  const data2 = events.data2.slice();
  const left = new Uint8Array(events.count);
  let [changed, leftOut] = [0, 0];
  for (const n of inSpan) {
    const row = notes.on[n]!;
    const beside = (events.atTick[row]! - from) % beatTicks;
    const between = beside > beatTicks / 8 && beside < (beatTicks * 7) / 8;
    const goes = chance() < mostLeftOut * amount && between && data2[row]! < middle;
    if (goes) {
      left[row] = 1;
      if (notes.off[n] !== -1) left[notes.off[n]!] = 1;
      leftOut++;
      continue;
    }
    const velocity = Math.round(data2[row]! + mostVelocity * amount * bell(chance));
    const now = Math.min(127, Math.max(1, velocity));
    if (now !== data2[row]) changed++;
    data2[row] = now;
  }
  const louder = changed === 0 ? events : { ...events, data2 };
  if (leftOut > 0) dropPressure(events, notes, left);
  return {
    events: leftOut === 0 ? louder : without(louder, (row) => left[row] === 1)!,
    changed,
    leftOut,
  };
}
