import { useEffect, useEffectEvent, useState } from 'react';
import { queued, type Act } from './hand-queue.ts';

/** Keys that have rested this long are one step. */
const restMs = 250;

/**
 * What hands do, in its order. Each act is done when the plane is `ready`, that is when it shows what the
 * song has: so nothing is lost that is done while the step before is on its way, and no row means another
 * event. A run of keys is one act. `busy` tells of a step on its way that `ready` does not tell of yet.
 */
export function useHandQueue(
  ready: boolean,
  busy: () => boolean,
  act: (act: Act) => void,
): { queue: readonly Act[]; add: (act: Act) => void } {
  const [queue, setQueue] = useState<readonly Act[]>([]);
  const next = useEffectEvent((): void => {
    // It is not ready any more, and once it is again the turn comes again.
    if (busy()) return;
    const [first, ...rest] = queue;
    setQueue(rest);
    if (first) act(first);
  });
  useEffect(() => {
    const [first, ...rest] = queue;
    if (!ready || !first) return;
    const timer = setTimeout(
      next,
      first.kind === 'nudge' && first.rests && rest.length === 0 ? restMs : 0,
    );
    return () => clearTimeout(timer);
  }, [ready, queue]);
  // Who leaves the view before the keys have rested has moved the notes all the same.
  const leave = useEffectEvent((): void => {
    const [first] = queue;
    if (ready && first?.kind === 'nudge') act(first);
  });
  useEffect(() => () => leave(), []);
  return {
    queue,
    add(its) {
      // What changes nothing of the song follows the hand at once.
      if (ready && !busy() && queue.length === 0 && its.kind !== 'nudge') act(its);
      else setQueue((before) => queued(before, its));
    },
  };
}
