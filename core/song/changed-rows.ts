import { payloadOf, type Events } from '../smf/events.ts';
import { notesOf } from './notes.ts';

/**
 * Rows of a track (from 0, rising) that another state of it does not have as they are: taken out, changed
 * or moved to another tick. Of events that are alike on one tick as many are taken as are missing, the last
 * ones. Linear in the events.
 */
export function changedRows(before: Events, after: Events): number[] {
  const changed: number[] = [];
  let [i, j] = [0, 0];
  while (i < before.count) {
    const tick = before.atTick[i]!;
    while (j < after.count && after.atTick[j]! < tick) j++;
    const [endI, endJ] = [endOfTick(before, i), endOfTick(after, j, tick)];
    if (!isSame(before, i, endI, after, j, endJ)) {
      const left = counted(after, j, endJ);
      for (let row = i; row < endI; row++) {
        const key = keyOf(before, row);
        const n = left.get(key) ?? 0;
        if (n === 0) changed.push(row);
        else left.set(key, n - 1);
      }
    }
    [i, j] = [endI, endJ];
  }
  return changed;
}

/**
 * Rows of notes, where they begin, that another state of the track does not have from the same tick to the
 * same tick as loud: also those whose end alone is another.
 */
export function changedNotes(before: Events, after: Events): number[] {
  const left = new Map<string, number>();
  for (const key of noteKeys(after)) left.set(key, (left.get(key) ?? 0) + 1);
  const { on } = notesOf(before);
  const changed: number[] = [];
  noteKeys(before).forEach((key, n) => {
    const same = left.get(key) ?? 0;
    if (same === 0) changed.push(on[n]!);
    else left.set(key, same - 1);
  });
  return changed;
}

function noteKeys(events: Events): string[] {
  const { count, on, off } = notesOf(events);
  const { atTick, status, data1, data2 } = events;
  return Array.from({ length: count }, (_, n) => {
    const [row, end] = [on[n]!, off[n]!];
    return `${atTick[row]} ${status[row]} ${data1[row]} ${data2[row]} ${end === -1 ? '' : atTick[end]}`;
  });
}

/** The first row behind those that stand on a tick from a row on. */
function endOfTick({ atTick, count }: Events, row: number, tick = atTick[row]): number {
  let end = row;
  while (end < count && atTick[end] === tick) end++;
  return end;
}

/** Whether the same events stand there in the same order, as they do nearly everywhere. */
function isSame(a: Events, i: number, endI: number, b: Events, j: number, endJ: number): boolean {
  if (endI - i !== endJ - j) return false;
  for (let n = 0; n < endI - i; n++) {
    const [x, y] = [i + n, j + n];
    if (a.status[x] !== b.status[y] || a.data1[x] !== b.data1[y] || a.data2[x] !== b.data2[y])
      return false;
    if ((a.payload[x] || b.payload[y]) && keyOf(a, x) !== keyOf(b, y)) return false;
  }
  return true;
}

function counted(events: Events, from: number, to: number): Map<string, number> {
  const found = new Map<string, number>();
  for (let row = from; row < to; row++) {
    const key = keyOf(events, row);
    found.set(key, (found.get(key) ?? 0) + 1);
  }
  return found;
}

const keyOf = (events: Events, row: number): string =>
  `${events.status[row]} ${events.data1[row]} ${events.data2[row]} ${payloadOf(events, row).join()}`;

/** Rising whole numbers, rows or bars, as spans, first and last. */
export function asSpans(rows: readonly number[]): [number, number][] {
  const found: [number, number][] = [];
  for (const row of rows) {
    const last = found.at(-1);
    if (last && last[1] === row - 1) last[1] = row;
    else found.push([row, row]);
  }
  return found;
}
