import { useEffect, useRef } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { secondsToTicks } from '#core/timing/tempo-map.ts';
import { useMaps } from '../api/maps.ts';
import { usePlaying } from '../state/playing.ts';
import type { Plane } from './plane.ts';

/** Part of the width that is left before the place when the view turns to it. */
const margin = 0.06;

/**
 * Where a song plays, over a plane. A plane that `follows` turns its view when the place leaves it; one that was
 * scrolled away from the place stays where it is
 * until the place comes back into it.
 */
export function PlanePlayhead({
  song,
  plane,
  follows = false,
}: {
  song: SongView;
  plane: Plane;
  follows?: boolean;
}) {
  const line = useRef<HTMLDivElement>(null);
  const { tempo } = useMaps(song);
  useEffect(() => {
    let tick: number | undefined;
    const inView = (at: number): boolean => at >= plane.tick && at <= plane.lastTick;
    const place = (): void => {
      if (!line.current) return;
      const seen = tick !== undefined && inView(tick);
      line.current.style.display = seen ? '' : 'none';
      if (seen) line.current.style.transform = `translateX(${plane.x(tick!)}px)`;
    };
    const move = (): void => {
      const { song: heard, state, seconds } = usePlaying.getState();
      const before = tick;
      const heardHere = heard === song.id && (state !== 'silent' || seconds > 0);
      tick = heardHere ? secondsToTicks(tempo, seconds) : undefined;
      const left = before !== undefined && inView(before) && tick !== undefined && !inView(tick);
      if (follows && left && state === 'playing')
        plane.scroll(plane.x(tick!) - plane.width * margin, 0);
      place();
    };
    move();
    const stops = [usePlaying.subscribe(move), plane.onChange(place)];
    return () => stops.forEach((stop) => stop());
  }, [song.id, tempo, plane, follows]);
  return (
    <div
      ref={line}
      data-testid="plane-playhead"
      className="pointer-events-none absolute inset-y-0 left-0 w-[2px] bg-ink"
      style={{ display: 'none' }}
    />
  );
}
