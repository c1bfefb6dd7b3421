import { percussionChannel } from '../instruments/general-midi.ts';
import type { Events } from '../smf/events.ts';
import { notesOf } from '../song/notes.ts';

/** A gap of more than an octave between the music and the few keys below or above it. */
const leastGap = 13;
const mostShare = 0.2;
/** Key switches lie at the ends of the keyboard: below F♯2, or from C7 (common practice). */
const lowEnd = 41;
const highEnd = 96;

export interface KeySwitches {
  readonly lowest: number;
  readonly highest: number;
  readonly count: number;
  readonly end: 'low' | 'high';
}

/**
 * A few notes far from the music of a part, at an end of the keyboard, that look like key switches;
 * undefined where there are none.
 */
export function keySwitchesIn(events: Events): KeySwitches | undefined {
  const notes = notesOf(events);
  const uses = new Uint32Array(128);
  for (let n = 0; n < notes.count; n++) {
    const on = notes.on[n]!;
    if ((events.status[on]! & 15) === percussionChannel) return undefined;
    uses[events.data1[on]!]!++;
  }
  const keys = [...uses.keys()].filter((k) => uses[k]! > 0);
  const sum = (list: readonly number[]): number => list.reduce((n, k) => n + uses[k]!, 0);
  const few = (list: readonly number[]): boolean =>
    list.length > 0 && notes.count >= 8 && sum(list) <= notes.count * mostShare;
  for (let i = 1; i < keys.length; i++) {
    if (keys[i]! - keys[i - 1]! < leastGap) continue;
    const below = keys.slice(0, i);
    const above = keys.slice(i);
    if (few(below) && below.at(-1)! <= lowEnd)
      return { lowest: below[0]!, highest: below.at(-1)!, count: sum(below), end: 'low' };
    if (few(above) && above[0]! >= highEnd)
      return { lowest: above[0]!, highest: above.at(-1)!, count: sum(above), end: 'high' };
  }
  return undefined;
}
