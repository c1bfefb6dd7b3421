import { useEffect, useEffectEvent, useRef } from 'react';
import type { SongView } from '#contracts/songs.ts';
import type { StepAsked } from '../api/queries.ts';
import { usePlaying } from '../state/playing.ts';
import { audition, followSteps, heardSong, hush } from './listen.ts';

/**
 * As long as `steps` are said, the song is heard as it would be with them: where it plays, from there on, else
 * from `from`, in seconds. When none are said
 * any more, or the caller goes, it is heard as it is, or falls silent where it was silent before.
 */
export function useAudition(
  song: SongView,
  steps: readonly StepAsked[] | undefined,
  from: () => number,
  after: 'as before' | 'plays on' = 'as before',
): void {
  const began = useRef(false);
  const hear = useEffectEvent((asked: readonly StepAsked[]): void => {
    const { song: heard, state, seconds } = usePlaying.getState();
    const plays = heard === song.id && state !== 'silent';
    if (!plays) began.current = true;
    void audition(heardSong(song, asked), plays ? seconds : from());
  });
  const leave = useEffectEvent((): void => {
    if (began.current && after === 'as before') hush();
    else void followSteps(song);
    began.current = false;
  });
  const key = steps && `${song.revision} ${JSON.stringify(steps)}`;
  const heard = key !== undefined;
  useEffect(() => {
    if (steps) hear(steps);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the same steps are another object after each render
  }, [key]);
  useEffect(() => (heard ? () => leave() : undefined), [heard]);
}
