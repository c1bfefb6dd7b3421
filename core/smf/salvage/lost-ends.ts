import { eventsFrom } from '../event-builder.ts';
import type { Events, EventValue } from '../events.ts';
import { mergeEvents } from '../merge.ts';

const noBytes = new Uint8Array(0);
const usualRelease = 64;

/**
 * The events with the ends of notes that were lost in a gap: a key that sounds before it and is never
 * silent again behind it ends at the gap. Else it would sound to the end of the song, and every later note
 * of that key would end where the one before it did. Notes that were never ended before stay so. `gaps`: rows
 * of the events behind each gap, ascending.
 */
export function withLostEnds(events: Events, gaps: readonly number[]): Events {
  const open = new Int32Array(16 * 128);
  /** Notes of a key that still sounded when one of it ended last: more than that is new. */
  const usual = new Int32Array(16 * 128);
  /** Keys that sounded when a gap came: when, and the fewest of their notes that sounded at once since. */
  const suspects = new Map<
    number,
    { readonly atTick: number; readonly usual: number; least: number }
  >();
  let next = 0;
  for (let row = 0; row < events.count; row++) {
    for (; gaps[next] === row; next++) {
      open.forEach((many, key) => {
        if (many > usual[key]! && !suspects.has(key))
          suspects.set(key, { atTick: events.atTick[row]!, usual: usual[key]!, least: many });
      });
    }
    const kind = events.status[row]! >> 4;
    if (kind !== 8 && kind !== 9) continue;
    const key = ((events.status[row]! & 15) << 7) | events.data1[row]!;
    if (kind === 9 && events.data2[row]! > 0) {
      open[key]!++;
      continue;
    }
    if (open[key]! > 0) open[key]!--;
    usual[key] = open[key]!;
    if (open[key] === 0) suspects.delete(key);
    const suspect = suspects.get(key);
    if (suspect) suspect.least = Math.min(suspect.least, open[key]!);
  }
  const ends = [...suspects].flatMap(([key, { atTick, usual, least }]): EventValue[] =>
    Array.from({ length: Math.max(0, least - usual) }, () => ({
      atTick,
      status: 0x80 | (key >> 7),
      data1: key & 127,
      data2: usualRelease,
      payload: noBytes,
    })),
  );
  return ends.length === 0 ? events : mergeEvents([eventsFrom(ends), events]);
}
