import { useEffect } from 'react';
import { useInView } from '../state/in-view.ts';
import type { Plane } from './plane.ts';

/** The strip shows which part of the song a plane has in sight, as long as the plane is there. */
export function useTellInView(plane: Plane): void {
  useEffect(() => {
    let asked = 0;
    const tell = (): void => {
      asked = 0;
      if (plane.width < 10) return;
      const span = { from: plane.tick, to: Math.min(plane.lastTick, plane.endTick) };
      useInView.setState({ span });
    };
    const ask = (): void => {
      asked ||= requestAnimationFrame(tell);
    };
    const stop = plane.onChange(ask);
    ask();
    return () => {
      stop();
      cancelAnimationFrame(asked);
      useInView.setState({ span: undefined });
    };
  }, [plane]);
}
