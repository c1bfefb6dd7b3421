import { useCallback, useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { TrackView } from '#contracts/songs.ts';
import type { NoteTable } from '#core/song/note-table.ts';
import type { Ghost } from '../../drawing/notes.ts';

const noGhost: Ghost = { ticks: 0, keys: 0, lengthen: 0 };
/** Of more notes than this none is found again after a step. */
const mostFound = 50_000;

/** Selected notes, by their place in the table. After a step that moves them they are found again where it put them. */
export function useSelection(table: NoteTable, tracks: readonly TrackView[]) {
  const [selected, setSelected] = useState<ReadonlySet<number>>(new Set());
  const wanted = useRef<ReadonlySet<string>>(new Set());
  const key = useCallback(
    (n: number, ghost: Ghost) =>
      `${tracks[table.track[n]!]?.id} ${Math.max(0, table.from[n]! + ghost.ticks)} ${table.key[n]! + ghost.keys}`,
    [table, tracks],
  );
  const [known, setKnown] = useState(table);
  if (known !== table) {
    // Another table: the numbers mean other notes now.
    setKnown(table);
    setSelected(new Set());
  }
  // Before anything else is done with the new table.
  useLayoutEffect(() => {
    if (wanted.current.size === 0) return;
    const found: number[] = [];
    for (let n = 0; n < table.count; n++) if (wanted.current.has(key(n, noGhost))) found.push(n);
    setSelected(new Set(found));
  }, [table, key]);
  const select = (notes: Iterable<number>, ghost: Ghost = noGhost): void => {
    const next = new Set(notes);
    wanted.current =
      next.size > mostFound ? new Set() : new Set([...next].map((n) => key(n, ghost)));
    if (ghost === noGhost) setSelected(next);
  };
  /** One for each selected note of the table, for drawing. */
  const marks = useMemo(() => {
    const all = new Uint8Array(table.count);
    for (const n of selected) all[n] = 1;
    return all;
  }, [selected, table.count]);
  return { selected, select, marks };
}
