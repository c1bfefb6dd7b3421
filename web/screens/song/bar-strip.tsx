import { useMemo, useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { meterMap, positionAt, positionText } from '#core/timing/meter-map.ts';
import { tempoAt, tempoMap, ticksToSeconds } from '#core/timing/tempo-map.ts';
import { tempoToBpm } from '#core/units/units.ts';
import { bpmText, count, duration } from '../../components/text.ts';
import { Canvas } from '../../drawing/canvas.tsx';
import { drawBars, stripScale } from '../../drawing/bars.ts';

/** The ruler of every view of a song: markers, bars with their meters, tempo. Pointing at it tells the place. */
export function BarStrip({ song }: { song: SongView }) {
  const { timing, division } = song;
  const [at, setAt] = useState<number>();
  const draw = useMemo(() => drawBars(timing), [timing]);
  const scale = useMemo(() => stripScale(timing), [timing]);
  const maps = useMemo(() => ({ meters: meterMap(timing.meters, division), tempo: tempoMap(timing.tempos.map((t) => ({ atTick: t.atTick, tempo: t.microsecondsPerQuarter })), division) }), [timing, division]);
  const place = at === undefined ? undefined : scale.tickAt(at);
  const move = (e: React.KeyboardEvent): void => {
    const by = { ArrowLeft: -1, ArrowRight: 1, Home: -1e9, End: 1e9 }[e.key];
    if (by === undefined) return;
    e.preventDefault();
    setAt(Math.min(1, Math.max(0, (at ?? 0) + by / timing.bars)));
  };
  return (
    <section aria-label="Bars" className="border-t border-line bg-sheet">
      <div
        className="relative h-[74px]"
        tabIndex={0}
        role="slider"
        aria-label="Place in the bars"
        aria-valuemin={1}
        aria-valuemax={timing.bars}
        aria-valuenow={place === undefined ? 1 : positionAt(maps.meters, place).bar}
        aria-valuetext={place === undefined ? `${count(timing.bars, 'bar')}, ${count(timing.markers.length, 'marker')}` : positionText(positionAt(maps.meters, place))}
        onKeyDown={move}
        onPointerMove={(e) => {
          const box = e.currentTarget.getBoundingClientRect();
          setAt(Math.min(1, Math.max(0, (e.clientX - box.left) / box.width)));
        }}
        onPointerLeave={() => setAt(undefined)}
        onBlur={() => setAt(undefined)}
      >
        <Canvas draw={draw} className="h-full w-full" />
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
