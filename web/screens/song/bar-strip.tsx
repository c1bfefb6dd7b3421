import { useMemo, useRef, useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { meterAt, positionAt, positionText, type MeterMap } from '#core/timing/meter-map.ts';
import { addressAt } from '#core/timing/start-timecode.ts';
import { tempoAt, ticksToSeconds } from '#core/timing/tempo-map.ts';
import { useMaps } from '../../api/maps.ts';
import { temposOf } from '../../api/runs.ts';
import { count, duration, tempoText } from '../../components/text.ts';
import { Canvas } from '../../drawing/canvas.tsx';
import { drawBars, strapAt, strapsOf, stripHeight, stripScale } from '../../drawing/bars.ts';
import { usePlace } from '../../state/place.ts';
import { useScope, type Bars } from '../../state/scope.ts';
import { listen } from '../../sound/listen.ts';
import { Converter } from './converter.tsx';
import { Playhead } from './playhead.tsx';
import { ScopeChip } from './scope-chip.tsx';
import { useConverter } from './use-converter.ts';

/** The ruler of every view of a song: markers, bars with their meters, tempo. Pointing at it tells the place; a press says the place in the converter; dragging on it sets the bars of the scope; two presses play from there. */
export function BarStrip({ song }: { song: SongView }) {
  const { timing, division } = song;
  const [at, setAt] = useState<number>();
  const straps = useMemo(() => strapsOf(timing.sections), [timing.sections]);
  const scale = useMemo(() => stripScale(timing), [timing]);
  const maps = useMaps(song);
  const tempos = useMemo(
    () => temposOf(maps.tempos, division.kind === 'ppq' ? division.ticksPerQuarter : undefined),
    [maps.tempos, division],
  );
  const draw = useMemo(
    () => drawBars(timing, straps, division.kind === 'ppq' ? tempos : undefined),
    [timing, straps, tempos, division],
  );
  const { bars, span } = useScope();
  const setPlace = usePlace((s) => s.set);
  const [converting] = useConverter();
  const began = useRef<number>(undefined);
  const place = at === undefined ? undefined : scale.tickAt(at);
  const barAt = (part: number): number =>
    Math.min(
      timing.bars,
      positionAt(maps.meters, scale.tickAt(Math.min(1 - 1e-9, Math.max(0, part)))).bar,
    );
  const partOf = (e: React.PointerEvent): number => {
    const box = e.currentTarget.getBoundingClientRect();
    return Math.min(1, Math.max(0, (e.clientX - box.left) / box.width));
  };
  const drag = (part: number): void => {
    const [a, b] = [barAt(began.current!), barAt(part)];
    span({ from: Math.min(a, b), to: Math.max(a, b) });
  };
  const move = (e: React.KeyboardEvent): void => {
    if (e.key === 'Escape' && bars) return span(undefined);
    const by = { ArrowLeft: -1, ArrowRight: 1, Home: -1e9, End: 1e9 }[e.key];
    if (by === undefined) return;
    e.preventDefault();
    const to = Math.min(
      1 - 0.5 / timing.bars,
      Math.max(0.5 / timing.bars, (at ?? 0.5 / timing.bars) + by / timing.bars),
    );
    began.current = e.shiftKey ? (began.current ?? at ?? to) : undefined;
    setAt(to);
    setPlace(song.id, scale.tickAt(to - 0.5 / timing.bars));
    if (e.shiftKey) drag(to);
  };
  return (
    <section aria-label="Bars" className="border-t border-line bg-sheet">
      {converting && (
        <Converter
          key={`${song.id} ${timing.startTimecode} ${timing.timecode?.rate}`}
          song={song}
        />
      )}
      <div
        className="relative cursor-text touch-none"
        style={{ height: stripHeight(straps) }}
        tabIndex={0}
        role="slider"
        aria-label="Place in the bars"
        aria-valuemin={1}
        aria-valuemax={timing.bars}
        aria-valuenow={place === undefined ? 1 : positionAt(maps.meters, place).bar}
        aria-valuetext={
          place === undefined
            ? `${count(timing.bars, 'bar')}, ${count(timing.markers.length, 'marker')}, ${count(timing.sections.length, 'section')}`
            : positionText(positionAt(maps.meters, place))
        }
        onKeyDown={move}
        onPointerDown={(e) => {
          if (e.button !== 0) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          began.current = partOf(e);
        }}
        onPointerUp={(e) => {
          // A press without a drag chooses the bars of the section there, or takes the bars of the scope back.
          if (
            began.current !== undefined &&
            Math.abs(partOf(e) - began.current) * e.currentTarget.clientWidth < 4
          ) {
            const strap = strapAt(
              straps,
              scale,
              partOf(e),
              e.clientY - e.currentTarget.getBoundingClientRect().top,
            );
            setPlace(song.id, scale.tickAt(partOf(e)));
            span(strap && barsOfTicks(maps.meters, strap.fromTick, strap.toTick));
          }
          began.current = undefined;
        }}
        onPointerMove={(e) => {
          const part = partOf(e);
          setAt(part);
          if (
            began.current !== undefined &&
            Math.abs(part - began.current) * e.currentTarget.clientWidth >= 4
          )
            drag(part);
        }}
        onDoubleClick={(e) =>
          void listen(
            song,
            maps,
            ticksToSeconds(
              maps.tempo,
              scale.tickAt(
                (e.clientX - e.currentTarget.getBoundingClientRect().left) /
                  e.currentTarget.clientWidth,
              ),
            ),
          )
        }
        onPointerLeave={() => setAt(undefined)}
        onBlur={() => setAt(undefined)}
      >
        {bars && (
          <div
            className="absolute inset-y-0 border-x-2 border-amber bg-amber-soft"
            style={{
              left: `${scale.bar(bars.from) * 100}%`,
              width: `${((bars.to - bars.from + 1) / timing.bars) * 100}%`,
            }}
          />
        )}
        <Canvas draw={draw} className="absolute inset-0 h-full w-full" />
        <Playhead song={song} maps={maps} scale={scale} />
        {bars && <ScopeChip song={song} bars={bars} />}
        {at !== undefined && place !== undefined && (
          <>
            <div
              className="pointer-events-none absolute inset-y-0 w-px bg-amber"
              style={{ left: `${at * 100}%` }}
            />
            <p
              className="num pointer-events-none absolute top-1 rounded border border-line bg-paper px-1.5 py-0.5"
              style={
                at > 0.6
                  ? { right: `calc(${(1 - at) * 100}% + 6px)` }
                  : { left: `calc(${at * 100}% + 6px)` }
              }
            >
              {positionText(positionAt(maps.meters, place))} ·{' '}
              {duration(ticksToSeconds(maps.tempo, place), true)}
              {division.kind === 'ppq' &&
                ` · ${tempoText(tempoAt(maps.tempo, place), meterAt(maps.meters, place))}`}
              {timing.timecode && ` · ${addressAt(timing.timecode, maps.tempo, place)}`}
            </p>
          </>
        )}
      </div>
    </section>
  );
}

/** Bars that a span of ticks touches. */
function barsOfTicks(meters: MeterMap, from: number, to: number): Bars {
  return {
    from: positionAt(meters, from).bar,
    to: Math.max(positionAt(meters, from).bar, positionAt(meters, Math.max(from, to - 1)).bar),
  };
}
