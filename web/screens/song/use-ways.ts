import { useEffect, useMemo } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { barTick } from '#core/timing/meter-map.ts';
import { ticksToSeconds } from '#core/timing/tempo-map.ts';
import type { Maps } from '#core/song/maps.ts';
import type { Ways } from '#core/playing/transport.ts';
import { tellWays } from '../../sound/listen.ts';
import { usePort } from '../../sound/port.ts';
import { isHeard, useBankOf, useHearing, useHeardTracks, useSentOut } from '../../state/hearing.ts';
import { usePorts } from '../../state/ports.ts';
import { useScope } from '../../state/scope.ts';

/** Tells the synthesizer how the open song is listened to, now and whenever that changes. */
export function useWays(song: SongView, { tempo, meters }: Maps): void {
  const { percent, metronome, atEnd } = useHearing();
  const heard = useHeardTracks(song);
  const bars = useScope((s) => s.bars);
  const ways = useMemo((): Ways => {
    const at = (bar: number): number => ticksToSeconds(tempo, barTick(meters, bar));
    const scope = bars && { from: at(bars.from), to: at(bars.to + 1) };
    return {
      rate: percent / 100,
      metronome,
      loop: atEnd === 'comes round' ? scope : undefined,
      stop: atEnd === 'stops' ? scope?.to : undefined,
    };
  }, [percent, metronome, atEnd, bars, tempo, meters]);
  const silent = useMemo(
    () => song.tracks.flatMap((t, n) => (isHeard(heard, t.id) ? [] : [n])),
    [song.tracks, heard],
  );
  const port = useSentTo(song);
  const bank = useBankOf(song.id).heard;
  useEffect(() => tellWays({ ways, silent, port, bank }), [ways, silent, port, bank]);
}

/** Which tracks sound at the MIDI port that is chosen and there. */
function useSentTo(song: SongView) {
  const there = usePort() !== undefined;
  const clock = usePorts((s) => s.clock);
  const out = useSentOut(song.id);
  return useMemo(
    () =>
      there
        ? {
            clock,
            tracks: song.tracks.flatMap((t, n) => (out === 'all' || out.includes(t.id) ? [n] : [])),
          }
        : undefined,
    [there, clock, out, song.tracks],
  );
}
