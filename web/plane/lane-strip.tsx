import { useCallback, useRef } from 'react';
import { laneDefault, type Lane } from '#core/song/lanes.ts';
import type { Events } from '#core/smf/events.ts';
import type { NamedRows } from '#core/song/rows.ts';
import { isWithin } from '../state/marked.ts';
import { laneTop } from '#core/edit/shape-lanes.ts';
import { PlaneCanvas, type PlaneDraw } from './plane-canvas.tsx';
import type { Plane } from './plane.ts';
import { drawnPoints, type Point } from './drawn.ts';
import { useNow } from './use-now.ts';

export interface LaneData {
  readonly what: Lane['what'];
  readonly ticks: readonly number[];
  readonly values: readonly number[];
  /** Which of them are marked. */
  readonly marked?: readonly number[];
}

export const laneData = (events: Events, lane: Lane, marked?: NamedRows[string]): LaneData => ({
  ...(marked ? { marked: lane.rows.flatMap((row, n) => (isWithin(marked, row) ? [n] : [])) } : {}),
  what: lane.what,
  ticks: lane.rows.map((row) => events.atTick[row]!),
  values: lane.values,
});

interface Place {
  readonly tick: number;
  readonly value: number;
}

interface Props {
  readonly plane: Plane;
  readonly lane: LaneData;
  readonly parked?: boolean;
  readonly erasing: boolean;
  readonly label: string;
  /** Puts points in place of what the lane says from `from` up to `to`; none erase. */
  readonly write: (from: number, to: number, points: Point[]) => void;
}

/**
 * One lane: each value as a line until the next. Drawing writes values, with Shift a straight line; erasing
 * takes them out.
 */
export function LaneStrip({ plane, lane, parked = false, erasing, label, write }: Props) {
  const { path, ...hand } = useLaneHand({ plane, lane, parked, erasing, write });
  const top = laneTop(lane.what);
  const draw = useCallback<PlaneDraw>(
    (c, { width, height }, inks) => {
      const y = (value: number): number => height - 3 - (value / top) * (height - 6);
      c.fillStyle = inks.line;
      c.fillRect(0, height - 1, width, 1);
      const usual = laneDefault(lane.what);
      if (lane.what === 'bend' && usual !== undefined)
        c.fillRect(0, Math.round(y(usual)), width, 1);
      c.strokeStyle = parked ? inks.faint : inks.stitch;
      c.lineWidth = 1.5;
      c.setLineDash(parked ? [5, 4] : []);
      drawHeld(c, plane, lane, y, width);
      c.setLineDash([]);
      drawMarked(c, plane, lane, y, inks.ochre);
      if (path.length > 0) {
        c.strokeStyle = inks.amber;
        c.lineWidth = 2;
        c.beginPath();
        path.forEach((p, i) =>
          i === 0
            ? c.moveTo(plane.x(p.tick), erasing ? height / 2 : y(p.value))
            : c.lineTo(plane.x(p.tick), erasing ? height / 2 : y(p.value)),
        );
        c.stroke();
      }
    },
    [plane, lane, top, parked, path, erasing],
  );
  return (
    <PlaneCanvas
      plane={plane}
      draw={draw}
      role="img"
      aria-label={label}
      className={`h-full w-full ${parked ? 'cursor-not-allowed' : erasing ? 'cursor-cell' : 'cursor-crosshair'}`}
      {...hand}
    />
  );
}

/** The way that is drawn over a lane, and what is written once it ends. */
function useLaneHand({
  plane,
  lane,
  parked,
  erasing,
  write,
}: Pick<Props, 'plane' | 'lane' | 'erasing' | 'write'> & { parked: boolean }) {
  const [path, drawn, setPath] = useNow<readonly Place[]>([]);
  const from = useRef<Place>(undefined);
  const top = laneTop(lane.what);
  const place = (e: React.PointerEvent): Place => {
    const box = e.currentTarget.getBoundingClientRect();
    const value = Math.round(((box.bottom - 3 - e.clientY) / (box.height - 6)) * top);
    return {
      tick: Math.max(0, Math.round(plane.tickAt(e.clientX - box.left))),
      value: Math.min(top, Math.max(0, value)),
    };
  };
  const letGo = (): void => {
    setPath([]);
    from.current = undefined;
  };
  const go = (e: React.PointerEvent): void => {
    if (!from.current) return;
    const to = place(e);
    setPath(e.shiftKey ? [from.current, to] : [...drawn.current, to]);
  };
  const finish = (e: React.PointerEvent): void => {
    // A finger's last way may come with its leaving.
    if (drawn.current.length > 1) go(e);
    const path = drawn.current;
    const made = path.length > 0 ? drawnPoints(path, lane.what, plane.ticksPerPixel) : undefined;
    letGo();
    if (made) write(made.from, made.to, erasing ? [] : made.points);
  };
  return {
    path,
    onPointerDown: (e: React.PointerEvent): void => {
      if (e.button !== 0 || parked) return;
      // A second finger pinches: what the first had begun to draw is let go.
      if (e.pointerType === 'touch' && !e.isPrimary) return letGo();
      e.currentTarget.setPointerCapture(e.pointerId);
      from.current = place(e);
      setPath([from.current]);
    },
    onPointerMove: (e: React.PointerEvent): void => {
      if (e.buttons === 1) go(e);
    },
    onPointerUp: finish,
    onPointerCancel: letGo,
  };
}

/** Dots on the values that are marked. */
function drawMarked(
  c: CanvasRenderingContext2D,
  plane: Plane,
  { ticks, values, marked = [] }: LaneData,
  y: (value: number) => number,
  colour: string,
): void {
  c.fillStyle = colour;
  for (const n of marked) {
    const x = plane.x(ticks[n]!);
    if (x < -3 || x > plane.width + 3) continue;
    c.beginPath();
    c.arc(x, y(values[n]!), 3, 0, Math.PI * 2);
    c.fill();
  }
}

/** The line that holds each value; several values within one pixel are one upright line. */
function drawHeld(
  c: CanvasRenderingContext2D,
  plane: Plane,
  { ticks, values }: LaneData,
  y: (value: number) => number,
  width: number,
): void {
  if (ticks.length === 0) return;
  let low = 0;
  let high = ticks.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ticks[middle]! <= plane.tick) low = middle + 1;
    else high = middle;
  }
  c.beginPath();
  let before = low > 0 ? y(values[low - 1]!) : undefined;
  if (before !== undefined) c.moveTo(0, before);
  let drawnX = -2;
  let [least, most] = [Infinity, -Infinity];
  for (let n = low; n < ticks.length; n++) {
    const x = plane.x(ticks[n]!);
    if (x > width) break;
    const at = y(values[n]!);
    [least, most] = [Math.min(least, at), Math.max(most, at)];
    const next = n + 1 < ticks.length ? plane.x(ticks[n + 1]!) : Infinity;
    if (next - drawnX < 0.7) continue;
    if (before === undefined) c.moveTo(x, at);
    else c.lineTo(x, before);
    if (most - least > 1) {
      c.lineTo(x, least);
      c.lineTo(x, most);
    }
    c.lineTo(x, at);
    before = at;
    drawnX = x;
    [least, most] = [Infinity, -Infinity];
  }
  if (before !== undefined) c.lineTo(width, before);
  c.stroke();
}
