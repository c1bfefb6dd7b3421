import { useCallback, useEffectEvent, useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { TrackView } from '#contracts/songs.ts';
import type { NoteTable } from '#core/song/note-table.ts';
import { moveOf, placesOf, type Moves } from '#core/timing/time-map.ts';
import { count } from '../../components/text.ts';
import type { Ghost } from '../../drawing/notes.ts';
import { isWithin, type Marked } from '../../state/marked.ts';
import { takeMoves } from '../../state/moved.ts';
import { say } from '../../messages/messages.ts';

const noGhost: Ghost = { ticks: 0, keys: 0, lengthen: 0 };
/** Of more notes than this none is found again after a step. */
const mostFound = 50_000;

/** A note as it is found again: by its track, its beginning and its key. */
interface Wanted {
  readonly track: string;
  readonly from: number;
  readonly key: number;
}
const keyOf = ({ track, from, key }: Wanted): string => `${track} ${from} ${key}`;

/**
 * Selected notes, by their place in the table. After a step that moves them, or time with them, they are
 * found again where it put them; that some are gone is said. What is marked is selected when it comes.
 */
export function useSelection(
  song: string,
  table: NoteTable,
  tracks: readonly TrackView[],
  marked: Marked | undefined,
) {
  const [selected, setSelected] = useState<ReadonlySet<number>>(new Set());
  const wanted = useRef<readonly Wanted[]>([]);
  const note = useCallback(
    (n: number, ghost: Ghost): Wanted => ({
      track: tracks[table.track[n]!]?.id ?? '',
      from: Math.max(0, table.from[n]! + ghost.ticks),
      key: table.key[n]! + ghost.keys,
    }),
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
    const moves = takeMoves(song);
    if (wanted.current.length === 0) return;
    if (moves) wanted.current = movedNotes(wanted.current, moves);
    const keys = new Set(wanted.current.map(keyOf));
    const found: number[] = [];
    for (let n = 0; n < table.count; n++) if (keys.has(keyOf(note(n, noGhost)))) found.push(n);
    const gone = keys.size - new Set(found.map((n) => keyOf(note(n, noGhost)))).size;
    if (gone > 0) {
      const left = found.length > 0 ? `; ${count(found.length, 'is', 'are')} chosen still` : '';
      say(`${count(gone, 'chosen note')} ${gone === 1 ? 'is' : 'are'} no longer there${left}.`);
      wanted.current = found.map((n) => note(n, noGhost));
    }
    setSelected(new Set(found));
  }, [song, table, note]);
  const [taken, take] = useState<Marked>();
  if (marked && taken !== marked) {
    take(marked);
    setSelected(markedNotes(table, tracks, marked));
  }
  const keepTaken = useEffectEvent((): void => {
    if (taken && selected.size <= mostFound)
      wanted.current = [...selected].map((n) => note(n, noGhost));
  });
  useLayoutEffect(() => keepTaken(), [taken]);
  const select = (notes: Iterable<number>, ghost: Ghost = noGhost): void => {
    const next = new Set(notes);
    wanted.current = next.size > mostFound ? [] : [...next].map((n) => note(n, ghost));
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

/** From the first that begins to the last that ends. */
export function spanOf(table: NoteTable, notes: ReadonlySet<number>): { from: number; to: number } {
  let [from, to] = [Infinity, 0];
  for (const n of notes) {
    from = Math.min(from, table.from[n]!);
    to = Math.max(to, table.to[n]!);
  }
  return { from, to };
}

function markedNotes(
  table: NoteTable,
  tracks: readonly TrackView[],
  { rows }: Marked,
): ReadonlySet<number> {
  const its = new Set<number>();
  for (let n = 0; n < table.count; n++)
    if (isWithin(rows[tracks[table.track[n]!]?.id ?? ''], table.row[n]!)) its.add(n);
  return its;
}

/** Where notes stand after time moved, the first time where it is there several times; where it is gone, as they were. */
const movedNotes = (notes: readonly Wanted[], moves: Moves): Wanted[] =>
  notes.map((n) => {
    const [at] = placesOf(moveOf(moves, n.track), n.from);
    return { ...n, from: at === undefined ? -1 : Math.round(at) };
  });
