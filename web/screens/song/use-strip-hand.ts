import { useRef, type DragEvent, type KeyboardEvent, type PointerEvent } from 'react';
import type { SongView } from '#contracts/songs.ts';
import type { Maps } from '#core/song/maps.ts';
import { positionAt, type MeterMap } from '#core/timing/meter-map.ts';
import { ticksToSeconds } from '#core/timing/tempo-map.ts';
import { strapAt, type Strap, type StripScale } from '../../drawing/bars.ts';
import { listen } from '../../sound/listen.ts';
import { pointAt, usePointed } from '../../state/pointed.ts';
import { usePlaying } from '../../state/playing.ts';
import { useShelf } from '../../state/shelf.ts';
import { usePlace } from '../../state/place.ts';
import { useScope, type Bars } from '../../state/scope.ts';

/** A press that moves less than this, in pixels, is no drag. */
const still = 4;

/** What hand and keys do on the bar strip: where it is pointed at, as a part of its width, and the handlers. */
export function useStripHand(
  song: SongView,
  maps: Maps,
  scale: StripScale,
  straps: readonly Strap[],
) {
  const { timing } = song;
  const at = usePointed((s) => s.at);
  const setAt = pointAt;
  const { bars, span } = useScope();
  const setPlace = usePlace((s) => s.set);
  const began = useRef<number>(undefined);
  const half = 0.5 / timing.bars;
  const barAt = (part: number): number => {
    const tick = scale.tickAt(Math.min(1 - 1e-9, Math.max(0, part)));
    return Math.min(timing.bars, positionAt(maps.meters, tick).bar);
  };
  const drag = (part: number): void => {
    const [a, b] = [barAt(began.current!), barAt(part)];
    span({ from: Math.min(a, b), to: Math.max(a, b) });
  };
  const moved = (e: PointerEvent): boolean =>
    Math.abs(partOf(e) - began.current!) * e.currentTarget.clientWidth >= still;

  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key === 'Escape' && bars) return span(undefined);
    const by = { ArrowLeft: -1, ArrowRight: 1, Home: -1e9, End: 1e9 }[e.key];
    if (by === undefined) return;
    e.preventDefault();
    const to = Math.min(1 - half, Math.max(half, (at ?? half) + by / timing.bars));
    began.current = e.shiftKey ? (began.current ?? at ?? to) : undefined;
    setAt(to);
    setPlace(song.id, scale.tickAt(to - half));
    if (e.shiftKey) drag(to);
  };

  /** Where nothing plays, playing begins at the place that was pressed. */
  const begin = (tick: number): void => {
    if (usePlaying.getState().state === 'silent')
      usePlaying.setState({ song: song.id, seconds: ticksToSeconds(maps.tempo, tick) });
  };

  /** A press without a drag chooses the bars of the section there, or takes the bars of the scope back. */
  const press = (e: PointerEvent): void => {
    const down = e.clientY - e.currentTarget.getBoundingClientRect().top;
    const strap = strapAt(straps, scale, partOf(e), down);
    const tick = scale.tickAt(partOf(e));
    setPlace(song.id, tick);
    begin(tick);
    span(strap && barsOfTicks(maps.meters, strap.fromTick, strap.toTick));
  };

  const hand = {
    onKeyDown,
    onPointerDown: (e: PointerEvent): void => {
      if (e.button !== 0 || !e.isPrimary) return;
      e.currentTarget.setPointerCapture(e.pointerId);
      began.current = partOf(e);
      // A finger that rests is told the place, as a pointer is that comes over it.
      setAt(partOf(e));
    },
    onPointerMove: (e: PointerEvent): void => {
      if (!e.isPrimary) return;
      setAt(partOf(e));
      if (began.current !== undefined && moved(e)) drag(partOf(e));
    },
    onPointerUp: (e: PointerEvent): void => {
      if (!e.isPrimary) return;
      if (began.current !== undefined) {
        // A finger's last way may come with its leaving.
        if (moved(e)) drag(partOf(e));
        else press(e);
      }
      began.current = undefined;
    },
    onPointerCancel: (): void => {
      began.current = undefined;
      setAt(undefined);
    },
    onDoubleClick: (e: React.MouseEvent): void =>
      void listen(song, ticksToSeconds(maps.tempo, scale.tickAt(partOf(e)))),
    // A clip of the shelf lands in the bar under the pointer.
    onDragOver: (e: DragEvent): void => {
      if (!useShelf.getState().drop) return;
      e.preventDefault();
      setAt(partOf(e));
    },
    onDrop: (e: DragEvent): void => {
      const { drop } = useShelf.getState();
      if (!drop) return;
      e.preventDefault();
      e.stopPropagation();
      setAt(undefined);
      drop(barAt(partOf(e)));
    },
    onDragLeave: (): void => setAt(undefined),
    onPointerLeave: (): void => setAt(undefined),
    onBlur: (): void => setAt(undefined),
  };
  return { at, hand };
}

/** The place under the pointer as a part of the strip's width. */
function partOf(e: React.MouseEvent): number {
  const box = e.currentTarget.getBoundingClientRect();
  return Math.min(1, Math.max(0, (e.clientX - box.left) / box.width));
}

/** Bars that a span of ticks touches. */
function barsOfTicks(meters: MeterMap, from: number, to: number): Bars {
  return {
    from: positionAt(meters, from).bar,
    to: Math.max(positionAt(meters, from).bar, positionAt(meters, Math.max(from, to - 1)).bar),
  };
}
