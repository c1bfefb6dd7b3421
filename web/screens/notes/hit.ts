import { notesBetween, type NoteTable } from '#core/song/note-table.ts';
import type { Plane } from '../../plane/plane.ts';

/** How near to a note's end, in pixels, it is taken to be stretched. */
const edge = 6;

export interface Hit {
  readonly note: number;
  readonly part: 'body' | 'end';
}

/** The note at a place of the plane; of several the one of the track in focus, and of those the shortest. */
export function noteAt(
  table: NoteTable,
  plane: Plane,
  x: number,
  y: number,
  focus: number,
): Hit | undefined {
  const key = plane.keyAt(y);
  const { first, end } = notesBetween(table, plane.tickAt(x - 3), plane.tickAt(x + 3));
  let best: number | undefined;
  for (let n = first; n < end; n++) {
    if (
      table.key[n] !== key ||
      plane.x(table.from[n]!) - 3 > x ||
      Math.max(plane.x(table.to[n]!), plane.x(table.from[n]!) + 4) + 2 < x
    )
      continue;
    if (best === undefined || better(table, n, best, focus)) best = n;
  }
  if (best === undefined) return undefined;
  const [from, to] = [plane.x(table.from[best]!), plane.x(table.to[best]!)];
  return { note: best, part: to - from > 2 * edge && to - x <= edge ? 'end' : 'body' };
}

function better({ track, from, to }: NoteTable, a: number, b: number, focus: number): boolean {
  const [inA, inB] = [track[a] === focus, track[b] === focus];
  return inA === inB ? to[a]! - from[a]! <= to[b]! - from[b]! : inA;
}

/** Notes that touch a rectangle of the plane. */
export function notesIn(
  table: NoteTable,
  plane: Plane,
  rect: { x: number; y: number; width: number; height: number },
): number[] {
  const [from, to] = [plane.tickAt(rect.x), plane.tickAt(rect.x + rect.width)];
  const [high, low] = [plane.keyAt(rect.y), plane.keyAt(rect.y + rect.height)];
  const { first, end } = notesBetween(table, from, to);
  const found: number[] = [];
  for (let n = first; n < end; n++)
    if (table.from[n]! < to && table.to[n]! > from && table.key[n]! >= low && table.key[n]! <= high)
      found.push(n);
  return found;
}
