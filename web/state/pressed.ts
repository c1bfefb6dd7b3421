import type { SongView } from '#contracts/songs.ts';
import { mapsOf, type Maps } from '#core/song/maps.ts';
import { positionAt } from '#core/timing/meter-map.ts';
import { useMaps } from '../api/maps.ts';
import { usePlace } from './place.ts';
import { useScope } from './scope.ts';

const barIn = (
  { id }: SongView,
  { meters }: Pick<Maps, 'meters'>,
  place: { readonly song: string; readonly tick: number },
): number | undefined => (place.song === id ? positionAt(meters, place.tick).bar : undefined);

/**
 * The bar that is pressed on the strip: the first of the scope, else where it was pressed last; undefined
 * where it never was.
 */
export const pressedBar = (song: SongView): number | undefined =>
  useScope.getState().bars?.from ?? barIn(song, mapsOf(song), usePlace.getState());

export function usePressedBar(song: SongView): number | undefined {
  const from = useScope((s) => s.bars?.from);
  const place = usePlace();
  const maps = useMaps(song);
  return from ?? barIn(song, maps, place);
}
