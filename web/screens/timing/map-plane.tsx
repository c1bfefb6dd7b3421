import { useMemo, useRef, useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import {
  barTick,
  meterAt,
  positionAt,
  positionText,
  type MeterMap,
} from '#core/timing/meter-map.ts';
import { useMaps } from '../../api/maps.ts';
import { useStep, type StepAsked } from '../../api/queries.ts';
import { useStepQueue } from '../../step/use-step-queue.ts';
import type { TempoEdit } from './map-model.ts';
import { temposOf, type Tempos } from '../../api/runs.ts';
import { Button } from '../../components/button.tsx';
import { count, tempoText } from '../../components/text.ts';
import { Canvas, type Draw } from '../../drawing/canvas.tsx';
import { usePlaying } from '../../state/playing.ts';
import { secondsToTicks } from '#core/timing/tempo-map.ts';
import type { Maps } from '#core/song/maps.ts';
import { useScope } from '../../state/scope.ts';
import { useShownTempos } from '../../state/shown-tempos.ts';
import { usePreparedStep } from '../../state/step.ts';
import { drawComing, drawGhost, drawGrid, drawHandles, drawLine } from './draw-map.ts';
import type { Handle } from './map-model.ts';
import { mapLeft, mapRight, mapScale, tempoRange, type MapScale } from './map-scale.ts';
import { ghostOf, useMapHand } from './use-map-hand.ts';
import { Choice, asSaid } from '../../fields/choice.tsx';

type Music = 'keeps its bars' | 'keeps its seconds';

/** The tempo as a line over the bars of the scope, or all, to be drawn, dragged and nudged. */
export function MapPlane({ song }: { song: SongView }) {
  const maps = useMaps(song);
  const step = useStep(song.id, song.revision);
  const [music, setMusic] = useState<Music>('keeps its bars');
  const ppq = song.division.kind === 'ppq' ? song.division.ticksPerQuarter : undefined;
  const tempos = useMemo(() => temposOf(maps.tempos, ppq), [maps.tempos, ppq]);
  const coming = useShownTempos((s) => s.tempos);
  const would = useMemo(() => coming && temposOf(coming, ppq), [coming, ppq]);
  const view = useMapView(song, maps, tempos, would);
  const ground = useRef<HTMLDivElement>(null);
  const scale = (): MapScale | undefined =>
    ground.current
      ? mapScale(view, ground.current.clientWidth, ground.current.clientHeight)
      : undefined;
  const { add } = useStepQueue(song);
  const hand = useMapHand(tempos, maps.meters, scale, {
    take: (edit) => {
      if (step.isPending) return false;
      step.mutate(askedOf(edit, music));
      return true;
    },
    wait: (edit) => void add(() => askedOf(edit, music)),
  });
  const { handles, chosen, held } = hand;
  const draw = useDrawing(view, maps.meters, tempos, would, hand);
  const [over, setOver] = useState(false);
  const at = held ?? (chosen && { tick: chosen.atTick, bpm: chosen.bpm });
  if (ppq === undefined) return <InFrames />;
  return (
    <section aria-label="Tempo line" className="border-b border-line bg-sheet">
      <Head
        tempos={tempos}
        handles={handles}
        at={at && tempoAtText(maps, at)}
        music={music}
        setMusic={setMusic}
      />
      <div
        ref={ground}
        className={`relative h-[176px] touch-none ${held ? 'cursor-grabbing' : over ? 'cursor-grab' : 'cursor-crosshair'}`}
        tabIndex={0}
        role="application"
        aria-label="Tempo line: arrow keys choose a tempo, with Alt they nudge it; Delete takes it out. Drag draws a gradual change, two presses a tempo."
        title="Drag: gradual change. Two presses: tempo. With Shift finer. Arrow keys choose, with Alt they nudge."
        data-testid="tempo-line"
        {...handlersOf(hand)}
        onPointerMove={(e) => {
          setOver(hand.near(e) !== undefined);
          hand.onPointerMove(e);
        }}
      >
        <Canvas draw={draw} className="absolute inset-0 h-full w-full" />
        <MapPlayhead song={song} maps={maps} view={view} />
      </div>
    </section>
  );
}

/** The ticks of the scope's bars, or of all, and the tempos from slowest to quickest that are to be seen in them. */
function useMapView(song: SongView, { meters }: Maps, tempos: Tempos, would: Tempos | undefined) {
  const bars = useScope((s) => s.bars);
  return useMemo(() => {
    const fromTick = bars ? barTick(meters, bars.from) : 0;
    const toTick = bars
      ? barTick(meters, bars.to + 1)
      : Math.max(song.timing.endTick, barTick(meters, 2));
    return {
      fromTick,
      toTick,
      ...tempoRange([tempos, ...(would ? [would] : [])], fromTick, toTick),
    };
  }, [bars, meters, song.timing.endTick, tempos, would]);
}

const tempoAtText = ({ meters }: Maps, { tick, bpm }: { tick: number; bpm: number }): string =>
  `${positionText(positionAt(meters, tick))} · ${tempoText(60_000_000 / bpm, meterAt(meters, tick))}`;

/** Where it plays on the line. */
function MapPlayhead({
  song,
  maps,
  view: { fromTick, toTick },
}: {
  song: SongView;
  maps: Maps;
  view: { fromTick: number; toTick: number };
}) {
  const tick = usePlaying((s) =>
    s.song === song.id && (s.state !== 'silent' || s.seconds > 0)
      ? secondsToTicks(maps.tempo, s.seconds)
      : undefined,
  );
  if (tick === undefined || tick < fromTick || tick > toTick) return null;
  return (
    <div
      className="pointer-events-none absolute inset-y-0 w-[2px] bg-ink"
      style={{
        left: `calc(${mapLeft}px + (100% - ${mapLeft + mapRight}px) * ${(tick - fromTick) / (toTick - fromTick)})`,
      }}
    />
  );
}

interface HeadProps {
  readonly tempos: Tempos;
  readonly handles: readonly Handle[];
  /** The tempo that is held or chosen, in words. */
  readonly at: string | undefined;
  readonly music: Music;
  readonly setMusic: (music: Music) => void;
}

/** How many tempos there are, which one is held, and what an edit does to the music. */
const Head = ({ tempos, handles, at, music, setMusic }: HeadProps) => (
  <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 pt-1.5 text-[12.5px]">
    <span className="text-faint">
      {count(handles.filter((h) => h.kind === 'point').length, 'tempo')}
      {tempos.runs.length > 0 && `, ${count(tempos.runs.length, 'gradual change')}`}
    </span>
    <span className="num min-w-[150px]" aria-live="polite" data-testid="tempo-at">
      {at}
    </span>
    <span className="ml-auto">
      <Choice
        label="The music"
        value={music}
        options={asSaid(['keeps its bars', 'keeps its seconds'] as const)}
        set={setMusic}
      />
    </span>
  </div>
);

/** Instead of the line, where ticks are parts of frames: no tempo has an effect there. */
function InFrames() {
  const { prepare } = usePreparedStep();
  return (
    <p className="flex items-center gap-3 border-b border-line bg-sheet px-4 py-3">
      The ticks of this song are parts of frames, which obey no tempo; its bars are counted at 120
      BPM.
      <Button
        onClick={() => prepare({ operation: 'timing.to-quarters', settings: {}, bars: 'all' })}
      >
        Turn frames into quarter notes …
      </Button>
    </p>
  );
}

/** What is drawn of the map, from the ground up. */
function useDrawing(
  view: ReturnType<typeof useMapView>,
  meters: MeterMap,
  tempos: Tempos,
  would: Tempos | undefined,
  { handles, chosen, held }: ReturnType<typeof useMapHand>,
): Draw {
  return useMemo<Draw>(
    () => (c, width, height, inks) => {
      const s = mapScale(view, width, height);
      drawGrid(c, s, meters, inks);
      // Where both are alike the line that is stands over it.
      if (would) drawComing(c, s, would, inks);
      drawLine(c, s, tempos, inks);
      drawHandles(c, s, handles, chosen, inks);
      drawGhost(c, s, ghostOf(tempos, held), inks);
    },
    // Handles are made anew with the tempos alone.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [view, meters, tempos, would, chosen?.atTick, chosen?.kind, chosen?.bpm, held],
  );
}

const handlersOf = (hand: ReturnType<typeof useMapHand>) => ({
  onPointerDown: hand.onPointerDown,
  onPointerUp: hand.onPointerUp,
  onPointerCancel: hand.onPointerCancel,
  onDoubleClick: hand.onDoubleClick,
  onKeyDown: hand.onKeyDown,
});

const askedOf = (edit: TempoEdit, music: Music): StepAsked => ({
  operation: 'timing.tempos',
  settings: { ...edit, music },
});
