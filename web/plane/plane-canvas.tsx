import { useEffect, useRef, type CanvasHTMLAttributes } from 'react';
import { usePreferences } from '../state/preferences.ts';
import { readInks, type Inks } from '../drawing/canvas.tsx';
import type { Plane } from './plane.ts';

export type PlaneDraw = (
  context: CanvasRenderingContext2D,
  size: { width: number; height: number },
  inks: Inks,
) => void;

interface Props extends CanvasHTMLAttributes<HTMLCanvasElement> {
  readonly plane: Plane;
  readonly draw: PlaneDraw;
  /** The canvas gives the plane its size; others share it. */
  readonly leads?: boolean;
}

/**
 * A canvas over a plane: drawn anew, once a frame at most, when the plane, the theme, its size or `draw`
 * changes. Wheel and pinch move the plane.
 */
export function PlaneCanvas({ plane, draw, leads = false, ...rest }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = usePreferences((p) => p.theme);
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext('2d', { alpha: true });
    if (!element || !context) return;
    let asked = 0;
    let inks = readInks();
    const paint = (): void => {
      asked = 0;
      const scale = devicePixelRatio || 1;
      const { clientWidth: width, clientHeight: height } = element;
      context.setTransform(scale, 0, 0, scale, 0, 0);
      context.clearRect(0, 0, width, height);
      draw(context, { width, height }, inks);
    };
    const ask = (): void => {
      asked ||= requestAnimationFrame(paint);
    };
    const fit = (): void => {
      const scale = devicePixelRatio || 1;
      element.width = Math.round(element.clientWidth * scale);
      element.height = Math.round(element.clientHeight * scale);
      inks = readInks();
      if (leads) plane.resize(element.clientWidth, element.clientHeight);
      ask();
    };
    const observer = new ResizeObserver(fit);
    observer.observe(element);
    const stop = plane.onChange(ask);
    ask();
    return () => {
      observer.disconnect();
      stop();
      cancelAnimationFrame(asked);
    };
  }, [plane, draw, leads, theme]);
  usePinchAndWheel(canvas, plane);
  return (
    <canvas
      ref={canvas}
      // A finger that rests asks for no menu of the browser.
      onContextMenu={(e) => e.preventDefault()}
      {...rest}
      className={`block touch-none ${rest.className ?? ''}`}
    />
  );
}

/**
 * Wheel scrolls, with Shift sideways, with Ctrl (and the pinch of a touchpad) zooms in time, with Alt in
 * pitch; two fingers pinch and drag.
 */
function usePinchAndWheel(canvas: React.RefObject<HTMLCanvasElement | null>, plane: Plane): void {
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const fingers = new Map<number, PointerEvent>();
    const onWheel = (e: WheelEvent): void => {
      e.preventDefault();
      const box = element.getBoundingClientRect();
      const unit = e.deltaMode === 1 ? 16 : 1;
      if (e.ctrlKey || e.metaKey)
        plane.zoom(Math.exp(-e.deltaY * unit * 0.004), e.clientX - box.left);
      else if (e.altKey) plane.zoomKeys(Math.exp(-e.deltaY * unit * 0.003), e.clientY - box.top);
      else if (e.shiftKey) plane.scroll((e.deltaX || e.deltaY) * unit, 0);
      else plane.scroll(e.deltaX * unit, e.deltaY * unit);
    };
    const spread = (): { distance: number; x: number } | undefined => {
      const [a, b] = [...fingers.values()];
      return (
        a &&
        b && {
          distance: Math.hypot(a.clientX - b.clientX, a.clientY - b.clientY),
          x: (a.clientX + b.clientX) / 2,
        }
      );
    };
    const onDown = (e: PointerEvent): void =>
      void (e.pointerType === 'touch' && fingers.set(e.pointerId, e));
    const onMove = (e: PointerEvent): void => {
      if (!fingers.has(e.pointerId)) return;
      const before = spread();
      fingers.set(e.pointerId, e);
      const after = spread();
      if (!before || !after) return;
      plane.zoom(
        after.distance / Math.max(1, before.distance),
        after.x - element.getBoundingClientRect().left,
      );
      plane.scroll(before.x - after.x, 0);
    };
    const onUp = (e: PointerEvent): void => void fingers.delete(e.pointerId);
    element.addEventListener('wheel', onWheel, { passive: false });
    element.addEventListener('pointerdown', onDown);
    element.addEventListener('pointermove', onMove);
    addEventListener('pointerup', onUp);
    addEventListener('pointercancel', onUp);
    return () => {
      element.removeEventListener('wheel', onWheel);
      element.removeEventListener('pointerdown', onDown);
      element.removeEventListener('pointermove', onMove);
      removeEventListener('pointerup', onUp);
      removeEventListener('pointercancel', onUp);
    };
  }, [canvas, plane]);
}
