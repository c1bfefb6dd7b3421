import { useCallback, useMemo, useState, type ReactNode } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import type { NoteTable } from '#core/song/note-table.ts';
import { positionAt, positionText } from '#core/timing/meter-map.ts';
import { count } from '../../components/text.ts';
import type { StepAsked } from '../../api/queries.ts';
import { useShownChords, type ShownChord } from '../../api/harmony.ts';
import {
  drawChordNames,
  drawGrid,
  drawGutter,
  drawNotes,
  gutter,
  type NoteScene,
} from '../../drawing/notes.ts';
import { useKeysAround } from './use-keys-around.ts';
import { PlaneCanvas, type PlaneDraw } from '../../plane/plane-canvas.tsx';
import type { Plane } from '../../plane/plane.ts';
import { PlanePlayhead } from '../../plane/playhead.tsx';
import { ZoomButtons } from '../../plane/zoom-buttons.tsx';
import { useScope } from '../../state/scope.ts';
import { spanOf } from './use-selection.ts';
import { LowerLane } from './lower-lane.tsx';
import { NoteBar } from './note-bar.tsx';
import { useNoteBoard, type Board } from './use-note-board.ts';
import type { useNoteHand } from './use-note-hand.ts';

export function NotePlane(props: Board) {
  const { song, tracks, events } = props;
  const { plane, table, scene: drawn, focus, step, ...board } = useNoteBoard(props);
  const { outside, voicing } = useKeysAround(song, tracks, table);
  const scene = { ...drawn, outside };
  const bars = useScope((s) => s.bars);
  const [at, setAt] = useState('');
  const { selected, add } = board;
  const [only] = selected;
  /** What is chosen, else what is pointed at, else how much there is. */
  const said = (): string => {
    if (selected.size === 1 && !at) return noteWords(scene, only!);
    if (selected.size === 0) return at || count(table.count, 'note');
    return [`${count(selected.size, 'note')} selected`, voicing(selected)]
      .filter(Boolean)
      .join(' · ');
  };
  return (
    <>
      <NoteBar
        labels={tracks.map((t) => t.name || `track ${song.tracks.indexOf(t) + 1}`)}
        focus={focus}
        onFocus={(i) => board.setFocus(tracks[i]!.id)}
        grid={board.gridName}
        onGrid={board.setGridName}
        drawing={board.drawing}
        onDrawing={board.setDrawing}
        steps={selected.size === 0 ? undefined : props.steps}
        remove={selected.size === 0 ? undefined : () => add({ kind: 'remove' })}
        said={said()}
      />
      <Canvases
        {...{ song, plane, scene }}
        hand={board.hand}
        onKeyDown={board.onKeyDown}
        point={setAt}
        corner={
          <ZoomButtons
            {...{ plane, song, bars }}
            selected={selected.size === 0 ? null : () => spanOf(table, selected)}
          />
        }
      />
      <LowerLane
        song={song}
        track={tracks[focus]!}
        events={events[focus]!}
        plane={plane}
        table={table}
        focus={focus}
        selected={scene.selected}
        any={selected.size > 0}
        velocities={(values) => step.mutate(stroke(table, tracks, values))}
        step={step}
      />
    </>
  );
}

const noteWords = ({ table, meters, keyName }: NoteScene, n: number): string =>
  `${positionText(positionAt(meters, table.from[n]!))}  ${keyName(table.key[n]!)}  velocity ${table.velocity[n]}`;

const stroke = (
  table: NoteTable,
  tracks: readonly TrackView[],
  values: ReadonlyMap<number, number>,
): StepAsked => ({
  operation: 'velocity.stroke',
  settings: { velocities: byTrack(table, tracks, values) },
});

/** Velocities of notes as a step wants them: by track, each with its row. */
function byTrack(
  table: NoteTable,
  tracks: readonly TrackView[],
  values: ReadonlyMap<number, number>,
): Record<string, [number, number][]> {
  const found: Record<string, [number, number][]> = {};
  for (const [n, velocity] of values)
    (found[tracks[table.track[n]!]!.id] ??= []).push([table.row[n]!, velocity]);
  return found;
}

interface CanvasesProps {
  readonly song: SongView;
  readonly plane: Plane;
  readonly scene: NoteScene;
  readonly hand: ReturnType<typeof useNoteHand>;
  readonly onKeyDown: (e: React.KeyboardEvent) => void;
  /** Place and key under the pointer, in words; '' where it is elsewhere. */
  readonly point: (said: string) => void;
  /** What stands in the corner beneath the notes. */
  readonly corner: ReactNode;
}

/** The notes over their grid, with the names of keys beside them. */
function Canvases({ song, plane, scene, hand, onKeyDown, point, corner }: CanvasesProps) {
  const chords = useShownChords(song);
  const { paint, paintGutter } = usePaint(plane, scene, chords);
  const under = (e: React.PointerEvent): string => {
    const box = e.currentTarget.getBoundingClientRect();
    const tick = Math.max(0, Math.round(plane.tickAt(e.clientX - box.left)));
    const key = plane.keyAt(e.clientY - box.top);
    return `${positionText(positionAt(scene.meters, tick))}  ${scene.keyName(key)}`;
  };
  return (
    <div
      className="grid min-h-0 flex-1"
      style={{ gridTemplateColumns: `${gutter}px minmax(0,1fr)` }}
    >
      <PlaneCanvas plane={plane} draw={paintGutter} aria-hidden className="h-full w-full" />
      <div className="relative min-h-0 min-w-0">
        <PlaneCanvas
          plane={plane}
          draw={paint}
          leads
          data-begin
          tabIndex={0}
          role="application"
          aria-label="Notes: drag to move, drag an end to stretch, drag across to select. Arrow keys move what is selected, with Alt they stretch and change velocity; comma and full stop go from note to note; Delete takes out."
          className="absolute inset-0 h-full w-full"
          style={{ cursor: hand.cursor }}
          onKeyDown={onKeyDown}
          {...hand.handlers}
          onPointerMove={(e) => {
            hand.handlers.onPointerMove(e);
            point(under(e));
          }}
          onPointerLeave={() => point('')}
        />
        <PlanePlayhead song={song} plane={plane} follows />
        <div className="absolute right-2 bottom-2 rounded-[5px] bg-paper/85 p-0.5">{corner}</div>
      </div>
    </div>
  );
}

/** How the notes, the grid behind them and the names of keys beside them are drawn. */
function usePaint(
  plane: Plane,
  {
    table,
    density,
    meters,
    focus,
    selected,
    ghost,
    drawing,
    rubber,
    bars,
    keyName,
    outside,
  }: NoteScene,
  chords: readonly ShownChord[],
) {
  const scene = useMemo(
    () => ({
      table,
      density,
      meters,
      focus,
      selected,
      ghost,
      drawing,
      rubber,
      bars,
      keyName,
      outside,
    }),
    [table, density, meters, focus, selected, ghost, drawing, rubber, bars, keyName, outside],
  );
  const paint = useCallback<PlaneDraw>(
    (c, _, inks) => {
      drawGrid(c, plane, plane.height, { meters, bars, keys: true }, inks);
      drawNotes(c, plane, scene, inks);
      drawChordNames(c, plane, chords, inks);
    },
    [plane, scene, meters, bars, chords],
  );
  const paintGutter = useCallback<PlaneDraw>(
    (c, _, inks) => drawGutter(c, plane, keyName, inks),
    [plane, keyName],
  );
  return { paint, paintGutter };
}
