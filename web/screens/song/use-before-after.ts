import { useEffect } from 'react';
import type { SongView } from '#contracts/songs.ts';
import type { Maps } from '#core/song/maps.ts';
import { barTick } from '#core/timing/meter-map.ts';
import { ticksToSeconds } from '#core/timing/tempo-map.ts';
import { useAudition } from '../../sound/use-audition.ts';
import { forgetOffered, useAuditioned } from '../../state/auditioned.ts';
import { usePlaying } from '../../state/playing.ts';
import { useScope } from '../../state/scope.ts';

/** Hears the song with the steps that are offered, as long as they are to be heard. */
export function useBeforeAfter(song: SongView, { tempo, meters }: Maps): void {
  // What a finding wanted is no longer so when the song has changed.
  useEffect(() => forgetOffered, [song.id, song.revision]);
  const steps = useAuditioned((s) => (s.heard ? s.offered?.steps : undefined));
  useAudition(
    song,
    steps,
    () => {
      const bar = firstBar(steps) ?? useScope.getState().bars?.from;
      if (bar !== undefined) return ticksToSeconds(tempo, barTick(meters, bar));
      const { song: last, seconds } = usePlaying.getState();
      return last === song.id && seconds < song.timing.seconds ? seconds : 0;
    },
    'plays on',
  );
}

/** Where steps are for some bars only, the first of them. */
function firstBar(
  steps:
    | readonly { readonly scope?: { readonly bars?: { readonly from: number } | undefined } }[]
    | undefined,
): number | undefined {
  const bars = steps?.map((s) => s.scope?.bars?.from) ?? [];
  return bars.length > 0 && bars.every((b) => b !== undefined) ? Math.min(...bars) : undefined;
}
