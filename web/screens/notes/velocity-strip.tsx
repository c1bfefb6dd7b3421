import { useCallback, useRef, useState } from 'react';
import { notesBetween, type NoteTable } from '#core/song/note-table.ts';
import { PlaneCanvas, type PlaneDraw } from '../../plane/plane-canvas.tsx';
import type { Plane } from '../../plane/plane.ts';
import type { Inks } from '../../drawing/canvas.tsx';

interface Props {
  readonly plane: Plane;
  readonly table: NoteTable;
  readonly focus: number;
  readonly selected: Uint8Array;
  readonly any: boolean;
  /** New velocities by note. */
  readonly stroke: (velocities: ReadonlyMap<number, number>) => void;
}

const room = 6;
const mostSingle = 4000;

/** Velocities as strokes from the ground; drawing across sets those of the selected notes, or of the track in focus. */
export function VelocityStrip({ plane, table, focus, selected, any, stroke }: Props) {
  const [drawn, setDrawn] = useState<ReadonlyMap<number, number>>(new Map());
  const last = useRef<{ x: number; y: number }>(undefined);
  const draw = useCallback<PlaneDraw>(
    (c, { height }, inks) =>
      drawVelocities(c, height, inks, { plane, table, focus, selected, drawn }),
    [plane, table, focus, selected, drawn],
  );

  const sweep = (e: React.PointerEvent): void => {
    const box = e.currentTarget.getBoundingClientRect();
    const to = { x: e.clientX - box.left, y: e.clientY - box.top };
    const from = last.current ?? to;
    last.current = to;
    const [left, right] = from.x <= to.x ? [from, to] : [to, from];
    const next = new Map(drawn);
    const { first, end } = notesBetween(table, plane.tickAt(left.x - 4), plane.tickAt(right.x + 4));
    for (let n = first; n < end; n++) {
      const x = plane.x(table.from[n]!);
      if (x < left.x - 4 || x > right.x + 4 || (any ? !selected[n] : table.track[n] !== focus))
        continue;
      const part =
        right.x === left.x ? 1 : Math.min(1, Math.max(0, (x - left.x) / (right.x - left.x)));
      const y = left.y + (right.y - left.y) * part;
      next.set(
        n,
        Math.min(127, Math.max(1, Math.round(((box.height - y) / (box.height - room)) * 127))),
      );
    }
    setDrawn(next);
  };

  return (
    <PlaneCanvas
      plane={plane}
      draw={draw}
      role="img"
      aria-label="Velocities; draw across to set them. With notes selected, Alt with the arrow keys makes them louder or softer."
      className="h-full w-full cursor-crosshair"
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        last.current = undefined;
        sweep(e);
      }}
      onPointerMove={(e) => e.buttons === 1 && sweep(e)}
      onPointerUp={() => {
        if (drawn.size > 0) stroke(drawn);
        setDrawn(new Map());
      }}
    />
  );
}

/** A stem for each note's velocity: of other tracks, of the one in focus, of what is selected, in that order. */
function drawVelocities(
  c: CanvasRenderingContext2D,
  height: number,
  inks: Inks,
  {
    plane,
    table,
    focus,
    selected,
    drawn,
  }: Pick<Props, 'plane' | 'table' | 'focus' | 'selected'> & {
    drawn: ReadonlyMap<number, number>;
  },
): void {
  const { first, end } = notesBetween(table, plane.tick, plane.lastTick);
  const tall = (v: number): number => (v / 127) * (height - room);
  c.fillStyle = inks.line;
  c.fillRect(0, Math.round(height - tall(64)), plane.width, 1);
  const every = Math.max(1, Math.ceil((end - first) / mostSingle));
  for (const pass of [0, 1, 2]) {
    c.fillStyle = [inks.other, inks.stitch, inks.amber][pass]!;
    for (let n = first; n < end; n += every) {
      const mine = selected[n] ? 2 : table.track[n] === focus ? 1 : 0;
      if (mine !== pass) continue;
      const x = plane.x(table.from[n]!);
      const v = drawn.get(n) ?? table.velocity[n]!;
      c.fillRect(x, height - tall(v), 1.5, tall(v));
      c.fillRect(x - 1.5, height - tall(v), 4.5, 2);
    }
  }
}
