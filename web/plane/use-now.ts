import { useCallback, useRef, useState, type RefObject } from 'react';

/**
 * What a hand is doing: as it is shown, and as it is at this very moment. A hand that lets go in the frame in
 * which it moved last is where it was last, not where that was shown.
 */
export function useNow<T>(at: T): readonly [shown: T, now: RefObject<T>, set: (to: T) => void] {
  const [shown, show] = useState(at);
  const now = useRef(at);
  const set = useCallback((to: T): void => {
    now.current = to;
    show(to);
  }, []);
  return [shown, now, set];
}
