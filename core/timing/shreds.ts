import { tempoToBpm } from '../units/units.ts';
import type { TempoPoint } from './timing.ts';

/** A gradual change that arrives as many small steps: tempo points `first` to `last`. */
export interface Shred {
  readonly first: number;
  readonly last: number;
  /** Quarter notes a minute before it and at its end. */
  readonly from: number;
  readonly to: number;
}

/** Fewer steps are how people write a rit. by hand. */
const leastSteps = 24;
/** Steps are shreds where they follow each other within a beat and change little. */
const mostQuarters = 1.01;
const mostChange = 0.08;

/** Runs of tempo points that go one way in small steps, close together. */
export function shredsIn(points: readonly TempoPoint[], quarter: number): Shred[] {
  const found: Shred[] = [];
  let first = 0;
  let way = 0;
  const close = (end: number): void => {
    if (end - first + 1 >= leastSteps && way !== 0)
      found.push({
        first,
        last: end,
        from: tempoToBpm(points[first]!.tempo),
        to: tempoToBpm(points[end]!.tempo),
      });
  };
  for (let i = 1; i <= points.length; i++) {
    const [a, b] = [points[i - 1]!, points[i]];
    const turn = b ? Math.sign(a.tempo - b.tempo) : 0;
    const near =
      b !== undefined &&
      b.atTick - a.atTick <= quarter * mostQuarters &&
      Math.abs(b.tempo - a.tempo) <= a.tempo * mostChange;
    if (near && (turn === 0 || way === 0 || turn === way)) {
      way ||= turn;
      continue;
    }
    close(i - 1);
    first = i;
    way = 0;
  }
  return found;
}
