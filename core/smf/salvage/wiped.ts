import { pickEvents } from '../event-builder.ts';
import type { Events } from '../events.ts';

/**
 * Note messages in a row, all on one tick, of key 0 at velocity 0: no music has so many where that key never
 * sounds, none one more.
 */
const wipedAtLeast = 3;

/**
 * Rows that zeros written over part of a track are read as: the same note message of nothing but zeros
 * again and again.
 */
export function wipedRows({ count, atTick, status, data1, data2 }: Events): number[] {
  const rows: number[] = [];
  let known: boolean | undefined;
  /** Whether key 0 sounds anywhere: gone through once, and only where it could matter. */
  const sounds = (): boolean =>
    (known ??= status.some((s, i) => s >> 4 === 9 && data1[i] === 0 && data2[i]! > 0));
  for (let i = 0; i < count;) {
    let to = i + 1;
    const kind = status[i]! >> 4;
    if ((kind === 8 || kind === 9) && data1[i] === 0 && data2[i] === 0) {
      while (
        to < count &&
        atTick[to] === atTick[i] &&
        status[to] === status[i] &&
        data1[to] === 0 &&
        data2[to] === 0
      )
        to++;
      const many = to - i;
      if (many > wipedAtLeast || (many === wipedAtLeast && !sounds()))
        for (let row = i; row < to; row++) rows.push(row);
    }
    i = to;
  }
  return rows;
}

/** The events without such rows; the same object where there are none. */
export function withoutWiped(events: Events): Events {
  const wiped = new Set(wipedRows(events));
  return wiped.size === 0
    ? events
    : pickEvents(
        events,
        Array.from({ length: events.count }, (_, i) => i).filter((i) => !wiped.has(i)),
      );
}
