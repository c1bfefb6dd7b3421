import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { mapsOf, type Maps } from '#core/song/maps.ts';
import { call } from './client.ts';

/**
 * A song lists some thousand tempos at most; where it has more, the others are fetched, and until they are
 * there the first count.
 */
export function useMaps(song: SongView): Maps {
  const all = useQuery({
    queryKey: ['song', song.id, 'tempos', song.revision],
    queryFn: () => call('getTempos', { params: { id: song.id } }),
    enabled: song.timing.tempoCount > song.timing.tempos.length,
    staleTime: Infinity,
    gcTime: 60_000,
  }).data;
  return useMemo(
    () =>
      mapsOf(
        song,
        all && all.revision === song.revision
          ? all.ticks.map((atTick, i) => ({ atTick, tempo: all.tempos[i]! }))
          : undefined,
      ),
    [song, all],
  );
}
