import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { SongView, TempoList } from '#contracts/songs.ts';
import { meterMap, type MeterMap } from '#core/timing/meter-map.ts';
import { tempoMap, type TempoMap } from '#core/timing/tempo-map.ts';
import type { TempoPoint } from '#core/timing/timing.ts';
import { call } from './client.ts';

/** A song's bars and times, with every tempo there is. */
export interface Maps {
  readonly meters: MeterMap;
  readonly tempo: TempoMap;
  readonly tempos: readonly TempoPoint[];
}

export const mapsOf = ({ timing, division }: Pick<SongView, 'timing' | 'division'>, tempos: readonly TempoPoint[] = listed(timing)): Maps => ({ meters: meterMap(timing.meters, division), tempo: tempoMap(tempos, division), tempos });

const listed = ({ tempos }: SongView['timing']): TempoPoint[] => tempos.map((t) => ({ atTick: t.atTick, tempo: t.microsecondsPerQuarter }));

/** A song lists some thousand tempos at most; where it has more, the others are fetched, and until they are there the first count. */
export function useMaps(song: SongView): Maps {
  const all = useQuery({
    queryKey: ['song', song.id, 'tempos', song.revision],
    queryFn: () => call<TempoList>('GET', `/api/songs/${song.id}/tempos`),
    enabled: song.timing.tempoCount > song.timing.tempos.length,
    staleTime: Infinity,
    gcTime: 60_000,
  }).data;
  return useMemo(() => mapsOf(song, all && all.revision === song.revision ? all.ticks.map((atTick, i) => ({ atTick, tempo: all.tempos[i]! })) : undefined), [song, all]);
}
