import type { Events } from '../smf/events.ts';
import type { Notes } from '../song/notes.ts';

/** What is no length to a hand: nothing, or a tick. */
const none = 1;

/**
 * Notes that new ticks (`atTick`, by row) would leave no length, or a tick, and that had more: by whose fault.
 * That is a chosen note itself, or the chosen one that now begins a tick behind it on its key.
 *
 * @returns rows of note-ons
 */
export function leftShort(
  events: Events,
  notes: Notes,
  atTick: Float64Array,
  isChosen: (on: number) => boolean,
): number[] {
  const short = new Map<string, number>();
  const faults: number[] = [];
  for (let n = 0; n < notes.count; n++) {
    const [on, off] = [notes.on[n]!, notes.off[n]!];
    if (off === -1 || atTick[off]! - atTick[on]! > none) continue;
    if (events.atTick[off]! - events.atTick[on]! <= none) continue;
    if (isChosen(on)) faults.push(on);
    else short.set(place(events, on, atTick[off]!), on);
  }
  if (short.size > 0)
    for (const on of notes.on)
      if (isChosen(on) && short.has(place(events, on, atTick[on]!))) faults.push(on);
  return faults;
}

const place = ({ status, data1 }: Events, on: number, tick: number): string =>
  `${status[on]! & 15} ${data1[on]!} ${tick}`;
