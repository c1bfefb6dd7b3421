import { useEffect, useRef, type RefObject } from 'react';
import type { Prepared } from '../state/step.ts';

/** What begins a step may still be giving the focus back. */
const settles = 60;

/**
 * A step that is begun has the focus where what began it is gone, or where it was begun elsewhere; from there
 * Tab goes to its first field, and Enter does it.
 */
export function useStepFocus({ operation, takesFocus }: Prepared): RefObject<HTMLElement | null> {
  const panel = useRef<HTMLElement>(null);
  useEffect(() => {
    const timer = setTimeout(() => {
      const lost = document.activeElement === null || document.activeElement === document.body;
      if (lost || takesFocus) panel.current?.focus({ preventScroll: true });
    }, settles);
    return () => clearTimeout(timer);
  }, [operation, takesFocus]);
  return panel;
}
