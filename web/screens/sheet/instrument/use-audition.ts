import { useEffect, useEffectEvent, useRef } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { ticksToSeconds } from '#core/timing/tempo-map.ts';
import { useMaps } from '../../../api/maps.ts';
import type { StepAsked } from '../../../api/queries.ts';
import { outlineOf, theDesk } from '../../../desk/the-desk.ts';
import { audition, beatsIn, followSteps, hush } from '../../../sound/listen.ts';
import { usePlaying } from '../../../state/playing.ts';

/** Seconds before the first note of a part from which on it is heard. */
const before = 0.2;

/**
 * While `asked` says a step, the song is heard as it would be with it: where it plays already, from there on, else from the first note of the part.
 * When the caller goes, the song is heard as it is, or falls silent where it was silent before.
 */
export function useAudition(
  song: SongView,
  asked: StepAsked | undefined,
  firstTick: number | undefined,
): void {
  const maps = useMaps(song);
  const began = useRef(false);
  const hear = useEffectEvent((step: StepAsked): void => {
    const { song: heard, state, seconds } = usePlaying.getState();
    const plays = heard === song.id && state !== 'silent';
    if (!plays) began.current = true;
    void audition(
      {
        key: song.id,
        version: `${song.id} ${song.revision} with ${JSON.stringify(step)}`,
        load: async () => ({
          tracks: await theDesk().playedWith(outlineOf(song), step),
          tempos: maps.tempos,
          division: song.division,
          beats: beatsIn(song, maps.tempo),
        }),
      },
      plays ? seconds : Math.max(0, ticksToSeconds(maps.tempo, firstTick ?? 0) - before),
    );
  });
  const key = asked && JSON.stringify(asked);
  useEffect(() => {
    if (asked) hear(asked);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the same step is another object after each render
  }, [key]);
  const leave = useEffectEvent((): void => {
    if (began.current) hush();
    else void followSteps(song, maps);
  });
  useEffect(() => () => leave(), []);
}
