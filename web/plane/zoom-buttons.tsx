import { Minus, Plus } from 'lucide-react';
import type { SongView } from '#contracts/songs.ts';
import { barTick, meterMap } from '#core/timing/meter-map.ts';
import { Button } from '../components/button.tsx';
import { keyNow } from '../keys/shown.ts';
import type { Bars } from '../state/scope.ts';
import type { Plane } from './plane.ts';

const nearer = 1.4;
const small = '!px-1.5 !py-0.5 text-[12px]';

/** Room beside what is shown, as a part of it. */
const room = 0.03;

/** Shows the whole song. */
export const showSong = (plane: Plane): void => plane.show(0, plane.endTick);

/** Shows some bars. */
export function showBars(plane: Plane, { timing, division }: SongView, bars: Bars): void {
  const map = meterMap(timing.meters, division);
  plane.show(barTick(map, bars.from), barTick(map, bars.to + 1));
}

/** Shows a span of ticks with a little room. */
export function showSpan(plane: Plane, { from, to }: { from: number; to: number }): void {
  const beside = Math.max(1, to - from) * room;
  plane.show(Math.max(0, from - beside), to + beside);
}

/** Nearer and farther, and what is to fill the view: the song, the bars of the scope, what is selected. */
export function ZoomButtons({
  plane,
  song,
  bars,
  selected,
}: {
  readonly plane: Plane;
  readonly song: SongView;
  readonly bars: Bars | undefined;
  /** From where to where what is selected goes; null where nothing is; left out where nothing can be. */
  readonly selected?: (() => { from: number; to: number }) | null;
}) {
  return (
    <div role="group" aria-label="Zoom" className="flex items-center gap-1">
      <Button
        className={small}
        aria-label="Farther"
        title={`Farther (${keyNow('notes-farther')})`}
        onClick={() => plane.zoom(1 / nearer, plane.width / 2)}
      >
        <Minus size={12} aria-hidden />
      </Button>
      <Button
        className={small}
        aria-label="Nearer"
        title={`Nearer (${keyNow('notes-nearer')})`}
        onClick={() => plane.zoom(nearer, plane.width / 2)}
      >
        <Plus size={12} aria-hidden />
      </Button>
      <Button
        className={small}
        title={`The whole song (${keyNow('notes-song')})`}
        onClick={() => showSong(plane)}
      >
        Song
      </Button>
      <Button
        className={small}
        disabled={!bars}
        title={bars ? `The bars of the scope (${keyNow('notes-scope')})` : 'No bars are the scope'}
        onClick={() => bars && showBars(plane, song, bars)}
      >
        Scope
      </Button>
      {selected !== undefined && (
        <Button
          className={small}
          disabled={!selected}
          title={
            selected ? `What is selected (${keyNow('notes-selected')})` : 'Nothing is selected'
          }
          onClick={() => selected && showSpan(plane, selected())}
        >
          Selection
        </Button>
      )}
    </div>
  );
}
