import { useEffect, useMemo, useRef } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { barTick, meterMap, positionAt } from '#core/timing/meter-map.ts';
import { Plane } from './plane.ts';
import { useTellInView } from './tell-in-view.ts';

/**
 * A plane that stays while the song's length does; it begins at the bars of the scope, else at a tick that is
 * to be seen, else with the first sixteen bars.
 */
export function usePlane(
  song: SongView,
  tracks: readonly TrackView[],
  bars: { from: number; to: number } | undefined,
  seen?: number,
): Plane {
  const { endTick, meters } = song.timing;
  const plane = useMemo(() => new Plane(endTick), [endTick]);
  useTellInView(plane);
  const shown = useRef<Plane>(undefined);
  useEffect(() => {
    const show = (): void => {
      if (plane.width < 10 || shown.current === plane) return;
      shown.current = plane;
      const map = meterMap(meters, song.division);
      const pitches = tracks.flatMap((t) => (t.pitch ? [t.pitch] : []));
      const [lowest, highest] =
        pitches.length === 0
          ? [48, 72]
          : [Math.min(...pitches.map((p) => p.lowest)), Math.max(...pitches.map((p) => p.highest))];
      const first =
        bars?.from ??
        Math.max(
          1,
          positionAt(map, seen ?? Math.min(...tracks.map((t) => t.firstNoteTick ?? endTick))).bar,
        );
      plane.show(barTick(map, first), barTick(map, (bars?.to ?? first + 15) + 1), lowest, highest);
    };
    show();
    return plane.onChange(show);
  }, [plane, meters, song.division, tracks, bars, endTick, seen]);
  return plane;
}
