import type { SongView } from '#contracts/songs.ts';
import { barTick, meterMap, positionAt, type MeterMap } from '#core/timing/meter-map.ts';
import { placesOf, sameTime, type TimeMap } from '#core/timing/time-map.ts';
import { noteMoves } from './moved.ts';
import { usePlace } from './place.ts';
import { useScope, type Bars } from './scope.ts';

/** How time moved, as the server says it. */
interface Moved {
  readonly song: TimeMap;
  readonly tracks?: Readonly<Record<string, TimeMap>> | undefined;
}

type Barred = Pick<SongView, 'id' | 'timing' | 'division'>;

const barsOf = ({ timing, division }: Barred): MeterMap => meterMap(timing.meters, division);

/**
 * The bars in which what stood in these bars stands now, the first time where it stands several times;
 * undefined where it is gone.
 */
export function barsNow(
  bars: Bars,
  map: TimeMap,
  before: MeterMap,
  after: MeterMap,
): Bars | undefined {
  const from = placesOf(map, barTick(before, bars.from))[0];
  const to = placesOf(map, barTick(before, bars.to + 1), 'before')[0];
  if (from === undefined || to === undefined || to <= from) return undefined;
  return { from: positionAt(after, from).bar, to: positionAt(after, to - 1).bar };
}

/**
 * What points at places of a song, the selected bars and the pressed place, goes where a step, an undo or a
 * redo moved them.
 */
export function followMoves(before: Barred, after: Barred, moves: Moved | undefined): void {
  const { song, tracks } = moves ?? {};
  noteMoves(after.id, song && (tracks ? { song, tracks } : { song }));
  const map = moves?.song ?? sameTime;
  const scope = useScope.getState();
  if (scope.song === after.id && scope.bars) {
    const now = barsNow(scope.bars, map, barsOf(before), barsOf(after));
    if (now?.from !== scope.bars.from || now.to !== scope.bars.to) scope.span(now);
  }
  const place = usePlace.getState();
  if (place.song === after.id) {
    const [now] = placesOf(map, place.tick);
    if (now !== undefined && Math.round(now) !== place.tick) place.set(after.id, Math.round(now));
  }
}
