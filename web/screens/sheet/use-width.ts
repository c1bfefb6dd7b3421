import { useEffect, useState, type RefObject } from 'react';

/** Width of an element in pixels, kept up to date. */
export function useWidth(element: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(900);
  useEffect(() => {
    if (!element.current) return;
    const observer = new ResizeObserver(([entry]) => setWidth(entry!.contentRect.width));
    observer.observe(element.current);
    return () => observer.disconnect();
  }, [element]);
  return width;
}
