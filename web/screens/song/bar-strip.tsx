import { lazy, Suspense, useMemo } from 'react';
import type { SongView } from '#contracts/songs.ts';
import type { Maps } from '#core/song/maps.ts';
import { meterAt, positionAt, positionText } from '#core/timing/meter-map.ts';
import { addressAt } from '#core/timing/start-timecode.ts';
import { tempoAt, ticksToSeconds } from '#core/timing/tempo-map.ts';
import { useChordRoom, useShownChords, type ShownChord } from '../../api/harmony.ts';
import { useMaps } from '../../api/maps.ts';
import { shownChord } from '#core/harmony/shown.ts';
import { temposOf } from '../../api/runs.ts';
import { count, duration, tempoText } from '../../components/text.ts';
import { Canvas } from '../../drawing/canvas.tsx';
import {
  drawBars,
  strapsOf,
  stripHeight,
  stripScale,
  type StripScale,
} from '../../drawing/bars.ts';
import { useInView } from '../../state/in-view.ts';
import { useLights } from '../../state/lights.ts';
import { moduleName, usePorts } from '../../state/ports.ts';
import { useScope, type Bars } from '../../state/scope.ts';
import { useShownBars } from '../../state/shown-bars.ts';
import { Converter } from './converter.tsx';
import { Playhead } from './playhead.tsx';
import { ScopeChip } from './scope-chip.tsx';
import { useConverter } from './use-converter.ts';
import { useStripHand } from './use-strip-hand.ts';

const Lights = lazy(async () => ({ default: (await import('./lights.tsx')).Lights }));
const ModulePanel = lazy(async () => ({
  default: (await import('./module-panel.tsx')).ModulePanel,
}));

/**
 * The ruler of every view of a song: markers, bars with their meters, tempo. Pointing at it tells the
 * place; a press says the place in the converter; dragging on it sets the bars of the scope; two presses
 * play from there.
 */
export function BarStrip({ song }: { song: SongView }) {
  const { timing } = song;
  const straps = useMemo(() => strapsOf(timing.sections), [timing.sections]);
  const scale = useMemo(() => stripScale(timing), [timing]);
  const maps = useMaps(song);
  const chords = useShownChords(song);
  const room = useChordRoom(song);
  const draw = useBars(song, maps, straps, room ? chords : undefined);
  const bars = useScope((s) => s.bars);
  const [converting] = useConverter();
  const lights = useLights((s) => s.shown);
  const module = usePorts((s) => s.chosen === moduleName.id);
  const { at, hand } = useStripHand(song, maps, scale, straps);
  const place = at === undefined ? undefined : scale.tickAt(at);
  return (
    <section aria-label="Bars" className="border-t border-line bg-sheet">
      <Suspense>
        {lights && <Lights song={song} />}
        {module && <ModulePanel />}
      </Suspense>
      {converting && (
        <Converter
          key={`${song.id} ${timing.startTimecode} ${timing.timecode?.rate}`}
          song={song}
        />
      )}
      <div className="relative">
        <div
          className="relative cursor-text touch-none"
          style={{ height: stripHeight(straps, room) }}
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
          {...hand}
        >
          <MarkedBars bars={bars} of={timing.bars} scale={scale} />
          <InView scale={scale} />
          <Canvas draw={draw} className="absolute inset-0 h-full w-full" />
          <Playhead song={song} maps={maps} scale={scale} />
          {at !== undefined && (
            <Pointed song={song} maps={maps} chords={chords} at={at} tick={scale.tickAt(at)} />
          )}
        </div>
        {bars && <ScopeChip song={song} bars={bars} />}
      </div>
    </section>
  );
}

/** The strip as it is drawn; tempos have no effect, and no place, where ticks are parts of frames. */
function useBars(
  { timing, division }: SongView,
  { tempos }: Maps,
  straps: ReturnType<typeof strapsOf>,
  chords: readonly ShownChord[] | undefined,
) {
  const ppq = division.kind === 'ppq' ? division.ticksPerQuarter : undefined;
  return useMemo(
    () => drawBars(timing, straps, ppq === undefined ? undefined : temposOf(tempos, ppq), chords),
    [timing, straps, tempos, ppq, chords],
  );
}

/** The bars of the scope, and those that something shows. */
function MarkedBars({
  bars,
  of,
  scale,
}: {
  bars: Bars | undefined;
  of: number;
  scale: StripScale;
}) {
  const shown = useShownBars((s) => s.bars);
  const reach = ({ from, to }: Bars) => ({
    left: `${scale.bar(from) * 100}%`,
    width: `${((to - from + 1) / of) * 100}%`,
  });
  return (
    <>
      {bars && (
        <div
          className="absolute inset-y-0 border-x-2 border-amber bg-amber-soft"
          style={reach(bars)}
        />
      )}
      {shown.map((span) => (
        <div
          key={span.from}
          data-shown-bars
          className="pointer-events-none absolute bottom-0 h-[5px] min-w-[3px] bg-ochre"
          style={reach(span)}
        />
      ))}
    </>
  );
}

/** Which part of the song the view above has in sight. */
function InView({ scale }: { scale: StripScale }) {
  const span = useInView((s) => s.span);
  if (!span) return null;
  const [from, to] = [scale.at(span.from), scale.at(span.to)];
  return (
    <div
      data-in-view
      title="In view"
      className="pointer-events-none absolute top-0 h-[4px] min-w-[4px] rounded-b bg-stitch"
      style={{ left: `${from * 100}%`, width: `${Math.max(0, to - from) * 100}%` }}
    />
  );
}

interface PointedProps {
  readonly song: SongView;
  readonly maps: Maps;
  readonly chords: readonly ShownChord[];
  /** Part of the strip's width, and the tick there. */
  readonly at: number;
  readonly tick: number;
}

/** A place that is pointed at, said in every way the song has. */
function Pointed({ song: { division, timing }, maps, chords, at, tick }: PointedProps) {
  const chord = chords.findLast((c) => c.atTick <= tick);
  const tempo =
    division.kind === 'ppq'
      ? ` · ${tempoText(tempoAt(maps.tempo, tick), meterAt(maps.meters, tick))}`
      : '';
  const address = timing.timecode ? ` · ${addressAt(timing.timecode, maps.tempo, tick)}` : '';
  const side =
    at > 0.6 ? { right: `calc(${(1 - at) * 100}% + 6px)` } : { left: `calc(${at * 100}% + 6px)` };
  return (
    <>
      <div
        className="pointer-events-none absolute inset-y-0 w-px bg-amber"
        style={{ left: `${at * 100}%` }}
      />
      <p
        className="num pointer-events-none absolute top-1 rounded border border-line bg-paper px-1.5 py-0.5"
        style={side}
      >
        {positionText(positionAt(maps.meters, tick))} ·{' '}
        {duration(ticksToSeconds(maps.tempo, tick), true)}
        {tempo}
        {address}
        {chord && ` · ${shownChord(chord.text)}`}
      </p>
    </>
  );
}
