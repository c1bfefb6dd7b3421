import type { Events } from '../smf/events.ts';
import { notesOf } from '../song/notes.ts';

/**
 * Gives notes that had a length and would lose it at new ticks one tick: changes `atTick` (by row), and
 * `rank` so that their ends stand before what else is on that tick. Gives how many.
 */
export function keepLengths(events: Events, atTick: Float64Array, rank: Int8Array): number {
  const notes = notesOf(events);
  let kept = 0;
  for (let n = 0; n < notes.count; n++) {
    const [on, off] = [notes.on[n]!, notes.off[n]!];
    if (off === -1 || atTick[off]! > atTick[on]! || events.atTick[off]! <= events.atTick[on]!)
      continue;
    atTick[off] = atTick[on]! + 1;
    rank[off] = -1;
    kept++;
  }
  return kept;
}

/** In words, for a report; undefined where there are none. */
export const keptLengthWords = (kept: number): string | undefined =>
  kept === 0
    ? undefined
    : `${kept.toLocaleString('en')} short note${kept === 1 ? '' : 's'} kept one tick long`;
