import { useEffect, useMemo } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { barTick } from '#core/timing/meter-map.ts';
import { ticksToSeconds } from '#core/timing/tempo-map.ts';
import type { Maps } from '#core/song/maps.ts';
import type { Ways } from '#core/playing/transport.ts';
import { tellWays } from '../../sound/listen.ts';
import { isHeard, useHearing, useHeardTracks } from '../../state/hearing.ts';
import { useScope } from '../../state/scope.ts';

/** Tells the synthesizer how the open song is listened to, now and whenever that changes. */
export function useWays(song: SongView, { tempo, meters }: Maps): void {
  const { percent, metronome, loops } = useHearing();
  const heard = useHeardTracks(song);
  const bars = useScope((s) => s.bars);
  const ways = useMemo((): Ways => {
    const at = (bar: number): number => ticksToSeconds(tempo, barTick(meters, bar));
    return {
      rate: percent / 100,
      metronome,
      loop: loops && bars ? { from: at(bars.from), to: at(bars.to + 1) } : undefined,
    };
  }, [percent, metronome, loops, bars, tempo, meters]);
  const silent = useMemo(
    () => song.tracks.flatMap((t, n) => (isHeard(heard, t.id) ? [] : [n])),
    [song.tracks, heard],
  );
  useEffect(() => tellWays(ways, silent), [ways, silent]);
}
