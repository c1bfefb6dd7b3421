import { X } from 'lucide-react';
import { useMemo, useRef, useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { meterMap, positionAt, positionText } from '#core/timing/meter-map.ts';
import { tempoAt, tempoMap, ticksToSeconds } from '#core/timing/tempo-map.ts';
import { tempoToBpm } from '#core/units/units.ts';
import { bpmText, count, duration } from '../../components/text.ts';
import { Canvas } from '../../drawing/canvas.tsx';
import { drawBars, stripScale } from '../../drawing/bars.ts';
import { useScope } from '../../state/scope.ts';

/** The ruler of every view of a song: markers, bars with their meters, tempo. Pointing at it tells the place; dragging on it sets the bars of the scope. */
export function BarStrip({ song }: { song: SongView }) {
  const { timing, division } = song;
  const [at, setAt] = useState<number>();
  const draw = useMemo(() => drawBars(timing), [timing]);
  const scale = useMemo(() => stripScale(timing), [timing]);
  const maps = useMemo(() => ({ meters: meterMap(timing.meters, division), tempo: tempoMap(timing.tempos.map((t) => ({ atTick: t.atTick, tempo: t.microsecondsPerQuarter })), division) }), [timing, division]);
  const { bars, span } = useScope();
  const began = useRef<number>(undefined);
  const place = at === undefined ? undefined : scale.tickAt(at);
  const barAt = (part: number): number => Math.min(timing.bars, positionAt(maps.meters, scale.tickAt(Math.min(1 - 1e-9, Math.max(0, part)))).bar);
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
    const to = Math.min(1 - 0.5 / timing.bars, Math.max(0.5 / timing.bars, (at ?? 0.5 / timing.bars) + by / timing.bars));
    began.current = e.shiftKey ? (began.current ?? at ?? to) : undefined;
    setAt(to);
    if (e.shiftKey) drag(to);
  };
  return (
    <section aria-label="Bars" className="border-t border-line bg-sheet">
      <div
        className="relative h-[74px] cursor-text touch-none"
        tabIndex={0}
        role="slider"
        aria-label="Place in the bars"
        aria-valuemin={1}
        aria-valuemax={timing.bars}
        aria-valuenow={place === undefined ? 1 : positionAt(maps.meters, place).bar}
        aria-valuetext={place === undefined ? `${count(timing.bars, 'bar')}, ${count(timing.markers.length, 'marker')}` : positionText(positionAt(maps.meters, place))}
        onKeyDown={move}
        onPointerDown={(e) => {
          if (e.button !== 0) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          began.current = partOf(e);
        }}
        onPointerUp={(e) => {
          // A press without a drag takes the bars of the scope back.
          if (began.current !== undefined && Math.abs(partOf(e) - began.current) * e.currentTarget.clientWidth < 4) span(undefined);
          began.current = undefined;
        }}
        onPointerMove={(e) => {
          const part = partOf(e);
          setAt(part);
          if (began.current !== undefined && Math.abs(part - began.current) * e.currentTarget.clientWidth >= 4) drag(part);
        }}
        onPointerLeave={() => setAt(undefined)}
        onBlur={() => setAt(undefined)}
      >
        {bars && <div className="absolute inset-y-0 border-x-2 border-amber bg-amber-soft" style={{ left: `${scale.bar(bars.from) * 100}%`, width: `${((bars.to - bars.from + 1) / timing.bars) * 100}%` }} />}
        <Canvas draw={draw} className="absolute inset-0 h-full w-full" />
        {bars && (
          <button
            type="button"
            className="absolute bottom-1 left-2 flex items-center gap-1 rounded border border-amber bg-sheet px-1.5 py-0.5 text-[12px]"
            title="All bars again (Escape)"
            onPointerDown={(e) => e.stopPropagation()}
            onClick={() => span(undefined)}
          >
            {bars.from === bars.to ? `Bar ${bars.from}` : `Bars ${bars.from} to ${bars.to}`} <X size={12} aria-hidden />
          </button>
        )}
        {at !== undefined && place !== undefined && (
          <>
            <div className="pointer-events-none absolute inset-y-0 w-px bg-amber" style={{ left: `${at * 100}%` }} />
            <p className="num pointer-events-none absolute top-1 rounded border border-line bg-paper px-1.5 py-0.5" style={at > 0.6 ? { right: `calc(${(1 - at) * 100}% + 6px)` } : { left: `calc(${at * 100}% + 6px)` }}>
              {positionText(positionAt(maps.meters, place))} · {duration(ticksToSeconds(maps.tempo, place), true)}
              {division.kind === 'ppq' && ` · ${bpmText(Math.round(tempoToBpm(tempoAt(maps.tempo, place)) * 100) / 100)} BPM`}
            </p>
          </>
        )}
      </div>
    </section>
  );
}
