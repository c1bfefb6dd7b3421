import { useEffect, type RefObject } from 'react';
import { eventRowHeight } from './event-rows.tsx';
import { keepPlace, keptPlace, wasAwaited, type Place } from './kept-events.ts';

/** Where a list begins: at what is marked or was put in, else where the one before it was. */
export function startOf(chosen: ReadonlySet<number>, marked: boolean, count: number): Place {
  const had = keptPlace();
  const goes = wasAwaited() || marked;
  if (!goes || chosen.size === 0)
    return had ? { ...had, row: Math.min(had.row, count) } : { top: 0, row: 0, focused: false };
  const row = Math.min(...chosen);
  const near = had && row * eventRowHeight >= had.top && (row - 12) * eventRowHeight < had.top;
  return { row, focused: true, top: near ? had.top : Math.max(0, (row - 3) * eventRowHeight) };
}

/**
 * The list of the next revision goes on where this one is, which is there still when that begins; `busy` where
 * a form over it has the keys.
 */
export function useKeepPlace(
  list: RefObject<HTMLDivElement | null>,
  row: number,
  busy: boolean,
): void {
  useEffect(() => {
    const node = list.current;
    if (node)
      keepPlace(() => ({
        top: node.scrollTop,
        row,
        focused: busy || node.contains(document.activeElement),
      }));
  }, [list, row, busy]);
}
