import {
  useEffect,
  useEffectEvent,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
} from 'react';
import type { MeterMap } from '#core/timing/meter-map.ts';
import type { Tempos } from '../../api/runs.ts';
import { sameHandle } from './draw-map.ts';
import {
  addPoint,
  drawChange,
  handlesOf,
  moveHandle,
  removeHandle,
  snapped,
  type Handle,
  type TempoEdit,
} from './map-model.ts';
import type { MapScale } from './map-scale.ts';

/** What the hand is at: a handle that is dragged, or a change that is drawn. */
export type Held =
  | { readonly handle: Handle; readonly tick: number; readonly bpm: number }
  | {
      readonly handle?: undefined;
      readonly from: { tick: number; bpm: number };
      readonly tick: number;
      readonly bpm: number;
    };

interface Takes {
  /** False while the step before is on its way. */
  readonly take: (edit: TempoEdit) => boolean;
  /** Takes it as soon as that one is there. */
  readonly wait: (edit: TempoEdit) => void;
}

const reach = 9;

/**
 * Hands on the tempo line: drag a handle, drag on the ground to draw a gradual change, press twice for a
 * tempo; arrow keys choose and, with Alt, nudge.
 */
export function useMapHand(
  tempos: Tempos,
  meters: MeterMap,
  scale: () => MapScale | undefined,
  { take, wait }: Takes,
) {
  const [chosenAt, choose] = useState<Handle>();
  const [held, hold] = useState<Held>();
  const [nudges, nudge] = useState(0);
  const began = useRef<{ x: number; y: number; handle?: Handle | undefined; moved: boolean }>(
    undefined,
  );
  const handles = handlesOf(tempos);
  const chosen = chosenAt && handles.find((h) => sameHandle(h, chosenAt));

  const place = (
    e: PointerEvent | React.MouseEvent,
  ): { x: number; y: number; s: MapScale } | undefined => {
    const s = scale();
    const box = e.currentTarget.getBoundingClientRect();
    return s && { x: e.clientX - box.left, y: e.clientY - box.top, s };
  };
  const valueAt = (
    { x, y, s }: { x: number; y: number; s: MapScale },
    fine: boolean,
  ): { tick: number; bpm: number } => ({
    tick: snapped(meters, s.tick(x), fine ? 'sixteenth' : 'beat'),
    bpm: Math.round(s.bpm(y) * (fine ? 10 : 1)) / (fine ? 10 : 1),
  });
  const near = ({ x, y, s }: { x: number; y: number; s: MapScale }): Handle | undefined => {
    let best: { handle: Handle; away: number } | undefined;
    for (const handle of handles) {
      const away = Math.hypot(s.x(handle.atTick) - x, s.y(handle.bpm) - y);
      if (away <= reach && (!best || away < best.away)) best = { handle, away };
    }
    return best?.handle;
  };

  /** What is held as an edit of the tempos as they are now; undefined where it would change nothing. */
  const edited = (now: Held): TempoEdit | undefined => {
    if (!now.handle) return now.tick === now.from.tick ? undefined : drawChange(now.from, now);
    const handle = handles.find((h) => sameHandle(h, now.handle));
    return !handle || (now.tick === handle.atTick && Math.abs(now.bpm - handle.bpm) < 1e-9)
      ? undefined
      : moveHandle(tempos, handle, now.tick, now.bpm);
  };
  const letGo = (): void => {
    const edit = held && edited(held);
    // While the step before is on its way it stays in the hand.
    if (edit && !take(edit)) return nudge(nudges + 1);
    nudge(0);
    hold(undefined);
    if (edit && held.handle)
      choose({ ...held.handle, atTick: stays(held.handle) ? 0 : held.tick, bpm: held.bpm });
  };
  const done = useEffectEvent(letGo);
  // Nudges by keys are one step, taken when the keys have rested; so is what had to wait.
  useEffect(() => {
    if (nudges === 0) return;
    const timer = setTimeout(done, 500);
    return () => clearTimeout(timer);
  }, [nudges]);

  return {
    handles,
    chosen,
    held,
    near: (e: PointerEvent) => ((p) => p && near(p))(place(e)),
    onPointerDown(e: PointerEvent): void {
      const at = place(e);
      if (!at || e.button !== 0) return;
      e.currentTarget.setPointerCapture(e.pointerId);
      const handle = near(at);
      began.current = { ...at, handle, moved: false };
      if (handle) choose(handle);
    },
    onPointerMove(e: PointerEvent): void {
      const at = place(e);
      const start = began.current;
      if (!at || !start) return;
      if (!start.moved && Math.hypot(at.x - start.x, at.y - start.y) < 5) return;
      start.moved = true;
      const value = valueAt(at, e.shiftKey);
      // A handle that is only raised keeps its place, however fine that is.
      if (start.handle)
        hold({
          handle: start.handle,
          tick: Math.abs(at.x - start.x) < 5 ? start.handle.atTick : value.tick,
          bpm: value.bpm,
        });
      else hold({ from: valueAt({ ...start, s: at.s }, e.shiftKey), ...value });
    },
    onPointerUp(): void {
      began.current = undefined;
      letGo();
    },
    onPointerCancel(): void {
      began.current = undefined;
      hold(undefined);
    },
    onDoubleClick(e: React.MouseEvent): void {
      const at = place(e);
      if (!at || near(at)) return;
      const { tick, bpm } = valueAt(at, e.shiftKey);
      wait(addPoint(tick, bpm));
      choose({ kind: 'point', atTick: tick, bpm });
    },
    onKeyDown(e: KeyboardEvent): void {
      const index = chosen ? handles.indexOf(chosen) : -1;
      const keys: Record<string, [number, number]> = {
        ArrowLeft: [-1, 0],
        ArrowRight: [1, 0],
        ArrowUp: [0, 1],
        ArrowDown: [0, -1],
      };
      const way = keys[e.key];
      if (e.key === 'Escape' && held) {
        hold(undefined);
        nudge(0);
      } else if (e.key === 'Escape' && chosen) choose(undefined);
      else if ((e.key === 'Delete' || e.key === 'Backspace') && chosen)
        wait(removeHandle(tempos, chosen));
      else if (way && e.altKey && chosen) {
        const now = held?.handle ? held : { tick: chosen.atTick, bpm: chosen.bpm };
        const tick = way[0] === 0 || stays(chosen) ? now.tick : nextBeat(meters, now.tick, way[0]);
        const raised = now.bpm + way[1] * (e.shiftKey ? 0.1 : 1);
        const bpm = Math.max(4, Math.round(raised * 1000) / 1000);
        hold({ handle: chosen, tick, bpm });
        nudge(nudges + 1);
      } else if (way && way[0] !== 0 && !e.altKey && handles.length > 0)
        choose(handles[Math.min(handles.length - 1, Math.max(0, index + way[0]))]);
      else return;
      e.preventDefault();
    },
  };
}

/** The first tempo of a song stays at its beginning. */
const stays = (handle: Handle): boolean => handle.kind === 'point' && handle.atTick === 0;

/** The beat before or behind a tick. */
function nextBeat(meters: MeterMap, tick: number, way: number): number {
  for (let by = 1; by < 1_000_000; by = Math.ceil(by * 1.3)) {
    const to = snapped(meters, tick + way * by, 'beat');
    if (way > 0 ? to > tick : to < tick) return to;
    if (tick + way * by < 0) break;
  }
  return tick;
}

/** Points of the line that what is held would give. */
export function ghostOf(tempos: Tempos, held: Held | undefined): { tick: number; bpm: number }[] {
  if (!held) return [];
  if (!held.handle) return [held.from, held];
  if (held.handle.kind === 'point')
    return [{ tick: stays(held.handle) ? 0 : held.tick, bpm: held.bpm }];
  const run = tempos.runs[held.handle.run]!;
  return held.handle.kind === 'from'
    ? [held, { tick: run.toTick, bpm: run.to }]
    : [{ tick: run.fromTick, bpm: run.from }, held];
}
