import { useRef, useState } from 'react';
import type { NoteTable } from '#core/song/note-table.ts';
import type { Ghost, NoteScene } from '../../drawing/notes.ts';
import type { Plane } from '../../plane/plane.ts';
import { useNow } from '../../plane/use-now.ts';
import { noteAt, notesIn } from './hit.ts';
import type { Grid } from './snap.ts';

export interface HandActions {
  select(notes: Iterable<number>): void;
  shift(ghost: Ghost): void;
  draw(note: { atTick: number; length: number; key: number }): void;
}

interface Hold {
  readonly kind: 'move' | 'stretch' | 'rubber' | 'draw';
  readonly x: number;
  readonly y: number;
  readonly tick: number;
  readonly key: number;
  /** The note that was taken hold of. */
  readonly note: number;
  readonly kept: readonly number[];
  /** What was selected before it. */
  readonly before: ReadonlySet<number>;
  moved: boolean;
}

/** A finger that rests as long on a note takes it into the selection, or out of it. */
const longMs = 500;
/** What moves less, in pixels, rests; a finger is never quite still. */
const restsWithin = { mouse: 3, touch: 8 };

const still: Ghost = { ticks: 0, keys: 0, lengthen: 0 };

interface Board {
  readonly plane: Plane;
  readonly table: NoteTable;
  readonly selected: ReadonlySet<number>;
  readonly focus: number;
  readonly grid: Grid;
  /** Pressing on an empty place draws. */
  readonly drawing: boolean;
}

/** What the pointer does on the plane: takes hold of notes, moves and stretches them, pulls a rectangle, or draws. */
export function useNoteHand(
  { plane, table, selected, focus, grid, drawing }: Board,
  actions: HandActions,
) {
  const hold = useRef<Hold>(undefined);
  const touched = useRef(false);
  const long = useRef<ReturnType<typeof setTimeout>>(undefined);
  const [ghost, ghostNow, setGhost] = useNow<Ghost | undefined>(undefined);
  const [rubber, setRubber] = useState<NoteScene['rubber']>();
  const [drawn, drawnNow, setDrawn] = useNow<NoteScene['drawing']>(undefined);
  const [cursor, setCursor] = useState('crosshair');

  const place = (e: React.PointerEvent): { x: number; y: number } => {
    const box = e.currentTarget.getBoundingClientRect();
    return { x: e.clientX - box.left, y: e.clientY - box.top };
  };

  const onPointerDown = (e: React.PointerEvent): void => {
    if (e.button !== 0) return;
    // A second finger pinches: what the first had begun is let go, and what it had selected.
    if (e.pointerType === 'touch' && !e.isPrimary) {
      if (hold.current) actions.select(hold.current.before);
      return letGo();
    }
    touched.current = e.pointerType === 'touch';
    e.currentTarget.setPointerCapture(e.pointerId);
    const { x, y } = place(e);
    const hit = noteAt(table, plane, x, y, focus);
    const add = e.shiftKey || e.ctrlKey || e.metaKey;
    const begin = (kind: Hold['kind'], note = -1): void => {
      hold.current = {
        kind,
        x,
        y,
        tick: plane.tickAt(x),
        key: plane.keyAt(y),
        note,
        kept: add ? [...selected] : [],
        before: selected,
        moved: false,
      };
      if (touched.current && note !== -1) long.current = setTimeout(() => toggle(note), longMs);
    };
    if (hit) {
      if (add)
        actions.select(
          selected.has(hit.note)
            ? [...selected].filter((n) => n !== hit.note)
            : [...selected, hit.note],
        );
      else if (!selected.has(hit.note)) actions.select([hit.note]);
      begin(hit.part === 'end' ? 'stretch' : 'move', hit.note);
    } else if (drawing) {
      begin('draw');
      const from = grid.snap(plane.tickAt(x) - grid.step / 2);
      setDrawn({ from, to: from + grid.step, key: plane.keyAt(y) });
    } else {
      if (!add) actions.select([]);
      begin('rubber');
    }
  };

  const onPointerMove = (e: React.PointerEvent): void => {
    const { x, y } = place(e);
    const h = hold.current;
    if (!h) {
      const hit = noteAt(table, plane, x, y, focus);
      setCursor(hit ? (hit.part === 'end' ? 'ew-resize' : 'grab') : drawing ? 'cell' : 'crosshair');
      return;
    }
    const rests = restsWithin[touched.current ? 'touch' : 'mouse'];
    if (!h.moved && Math.hypot(x - h.x, y - h.y) < rests) return;
    clearTimeout(long.current);
    h.moved = true;
    if (h.kind === 'move')
      setGhost({ ...still, ticks: movedTicks(h, x), keys: plane.keyAt(y) - h.key });
    if (h.kind === 'stretch') setGhost({ ...still, lengthen: stretched(h, x) });
    const d = drawnNow.current;
    if (h.kind === 'draw' && d)
      setDrawn({ ...d, to: Math.max(d.from + grid.step, grid.snap(plane.tickAt(x))) });
    if (h.kind === 'rubber') {
      const rect = {
        x: Math.min(x, h.x),
        y: Math.min(y, h.y),
        width: Math.abs(x - h.x),
        height: Math.abs(y - h.y),
      };
      setRubber(rect);
      actions.select([...h.kept, ...notesIn(table, plane, rect)]);
    }
  };

  /** The note held goes to the grid, the others keep their distance to it. */
  const movedTicks = (h: Hold, x: number): number => {
    const from = table.from[h.note]!;
    return grid.snap(Math.max(0, from + plane.tickAt(x) - h.tick)) - from;
  };
  const stretched = (h: Hold, x: number): number => {
    const [from, to] = [table.from[h.note]!, table.to[h.note]!];
    const least = from + Math.min(grid.step, to - from);
    return Math.max(least, grid.snap(to + plane.tickAt(x) - h.tick)) - to;
  };

  /** What Shift does for the mouse. */
  const toggle = (note: number): void => {
    const before = hold.current?.before ?? new Set<number>();
    actions.select(before.has(note) ? [...before].filter((n) => n !== note) : [...before, note]);
    letGo();
  };

  const onPointerUp = (e: React.PointerEvent): void => {
    // A finger's last way may come with its leaving.
    if (hold.current?.moved) onPointerMove(e);
    clearTimeout(long.current);
    const h = hold.current;
    hold.current = undefined;
    setRubber(undefined);
    const [ghost, drawn] = [ghostNow.current, drawnNow.current];
    if (drawn) actions.draw({ atTick: drawn.from, length: drawn.to - drawn.from, key: drawn.key });
    setDrawn(undefined);
    if (ghost && (ghost.ticks !== 0 || ghost.keys !== 0 || ghost.lengthen !== 0))
      actions.shift(ghost);
    setGhost(undefined);
    if (h?.kind === 'move' && !h.moved && h.kept.length === 0 && selected.size > 1)
      actions.select([h.note]);
  };

  const letGo = (): void => {
    clearTimeout(long.current);
    hold.current = undefined;
    setRubber(undefined);
    setDrawn(undefined);
    setGhost(undefined);
  };
  return {
    handlers: { onPointerDown, onPointerMove, onPointerUp, onPointerCancel: letGo },
    ghost,
    rubber,
    drawn,
    cursor,
  };
}
