import { useEffect, useRef } from 'react';
import { usePreferences } from '../state/preferences.ts';

/** Colours of the theme, for drawing. */
export interface Inks {
  readonly ink: string;
  readonly stitch: string;
  readonly faint: string;
  readonly line: string;
  readonly amber: string;
  readonly ochre: string;
  readonly sheet: string;
  /** The scope. */
  readonly soft: string;
  /** What is there and not meant. */
  readonly other: string;
}

export function readInks(): Inks {
  const style = getComputedStyle(document.documentElement);
  const colour = (name: string): string => style.getPropertyValue(`--color-${name}`).trim();
  return {
    ink: colour('ink'),
    stitch: colour('stitch'),
    faint: colour('faint'),
    line: colour('line'),
    amber: colour('amber'),
    ochre: colour('ochre-fill'),
    sheet: colour('sheet'),
    soft: colour('amber-soft'),
    other: colour('other'),
  };
}

export type Draw = (
  context: CanvasRenderingContext2D,
  width: number,
  height: number,
  inks: Inks,
) => void;

/** A canvas that fills its place, sharp on every screen, drawn again when its size, the theme or `draw` changes. */
export function Canvas({
  draw,
  label,
  className = '',
}: {
  draw: Draw;
  label?: string;
  className?: string;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = usePreferences((p) => p.theme);
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const paint = (): void => {
      const { clientWidth: width, clientHeight: height } = element;
      const scale = devicePixelRatio || 1;
      element.width = Math.round(width * scale);
      element.height = Math.round(height * scale);
      const context = element.getContext('2d');
      if (!context || width === 0) return;
      context.scale(scale, scale);
      draw(context, width, height, readInks());
    };
    const observer = new ResizeObserver(paint);
    observer.observe(element);
    void document.fonts.ready.then(paint);
    return () => observer.disconnect();
  }, [draw, theme]);
  return (
    <canvas
      ref={canvas}
      className={`block ${className}`}
      {...(label ? { role: 'img', 'aria-label': label } : { 'aria-hidden': true })}
    />
  );
}
