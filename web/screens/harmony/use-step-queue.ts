import { useCallback, useEffect, useEffectEvent, useRef, useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { useStep, type StepAsked } from '../../api/queries.ts';
import { lineOf, type ShownLine } from '../../harmony/line.ts';

/** A step on the chord line as it is when its turn comes. */
type Waiting = (line: ShownLine) => StepAsked;

/** Steps on the chord line one after the other: whoever types is quicker than the way to the server and back. */
export function useStepQueue(song: SongView) {
  const queue = useRef<Waiting[]>([]);
  const [asked, setAsked] = useState(0);
  const step = useStep(song.id, song.revision);
  const add = useCallback((next: Waiting): void => {
    queue.current.push(next);
    setAsked((n) => n + 1);
  }, []);
  const begin = useEffectEvent((): void => {
    if (step.isPending) return;
    const first = queue.current.shift();
    if (first) step.mutate(first(lineOf(song)));
  });
  useEffect(() => begin(), [asked, step.isPending, song.revision]);
  return { add, busy: step.isPending };
}
