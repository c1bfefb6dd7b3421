import { useCallback, useMemo, useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import type { Events } from '#core/smf/events.ts';
import { keyWords } from '#core/song/event-words.ts';
import { noteTable, type NoteTable } from '#core/song/note-table.ts';
import { meterMap, positionAt, positionText } from '#core/timing/meter-map.ts';
import { useStep } from '../../api/queries.ts';
import { count } from '../../components/text.ts';
import { densityOf } from '../../plane/density.ts';
import { drawGrid, drawGutter, drawNotes, gutter, type NoteScene } from '../../drawing/notes.ts';
import { PlaneCanvas, type PlaneDraw } from '../../plane/plane-canvas.tsx';
import type { Plane } from '../../plane/plane.ts';
import { usePlane } from '../../plane/use-plane.ts';
import { usePreferences } from '../../state/preferences.ts';
import { useScope } from '../../state/scope.ts';
import { LowerLane } from './lower-lane.tsx';
import { NoteBar } from './note-bar.tsx';
import { gridOf, type GridName } from './snap.ts';
import { useNoteHand } from './use-note-hand.ts';
import { noteKeys } from './use-note-keys.ts';
import { useSelection } from './use-selection.ts';
import { useHandSteps } from './use-hand-steps.ts';

interface Props {
  readonly song: SongView;
  readonly tracks: readonly TrackView[];
  readonly events: readonly Events[];
  /** The song has gone on, and its notes are on their way. */
  readonly behind: boolean;
}

export function NotePlane({ song, tracks, events, behind }: Props) {
  const step = useStep(song.id, song.revision);
  const middleC = usePreferences((p) => p.middleC);
  const bars = useScope((s) => s.bars);
  const meters = useMemo(
    () => meterMap(song.timing.meters, song.division),
    [song.timing.meters, song.division],
  );
  const table = useMemo(() => noteTable(events), [events]);
  const density = useMemo(
    () => densityOf(table, song.timing.endTick),
    [table, song.timing.endTick],
  );
  const plane = usePlane(song, tracks, bars);
  const [focusId, setFocusId] = useState(tracks[0]!.id);
  const focus = Math.max(
    0,
    tracks.findIndex((t) => t.id === focusId),
  );
  const [gridName, setGridName] = useState<GridName>('1/16');
  const grid = useMemo(
    () => gridOf(gridName, song.division, meters),
    [gridName, song.division, meters],
  );
  const [drawing, setDrawing] = useState(false);
  const [at, setAt] = useState('');
  const { selected, select, marks } = useSelection(table, tracks);
  const onDrums = tracks[focus]!.channels.length === 1 && tracks[focus]!.channel === 10;
  const keyName = useCallback(
    (key: number) => keyWords(key, onDrums ? 9 : 0, middleC),
    [onDrums, middleC],
  );

  const go = (by: 1 | -1): void => {
    const n = nextNote(table, focus, selected, by);
    if (n === undefined) return;
    select([n]);
    const x = plane.x(table.from[n]!);
    if (x < 0 || x > plane.width) plane.scroll(x - plane.width / 3, 0);
  };
  const { queue, add, waiting } = useHandSteps({
    step,
    ready: !step.isPending && !behind,
    table,
    tracks,
    selected,
    select,
    go,
    all: () => allOf(table, focus),
  });
  const hand = useNoteHand(
    { plane, table, selected, focus, grid, drawing },
    {
      select: (notes) => add({ kind: 'select', notes: [...notes], table }),
      shift: (ghost) => add({ kind: 'nudge', nudge: { ...ghost, louder: 0 }, rests: false }),
      draw: (note) =>
        add({
          kind: 'draw',
          notes: [{ ...note, velocity: usualVelocity(tracks[focus]!), track: tracks[focus]!.id }],
        }),
    },
  );
  const onKeyDown = noteKeys(plane, grid.step, {
    any: selected.size > 0 || queue.length > 0,
    shift: (its, louder) => add({ kind: 'nudge', nudge: { ...its, louder }, rests: true }),
    remove: () => add({ kind: 'remove' }),
    go: (by) => add({ kind: 'go', by }),
    all: () => add({ kind: 'all' }),
    none: () => (drawing ? setDrawing(false) : add({ kind: 'none' })),
  });

  const one = selected.size === 1 ? [...selected][0]! : undefined;
  return (
    <>
      <NoteBar
        labels={tracks.map((t) => t.name || `track ${song.tracks.indexOf(t) + 1}`)}
        focus={focus}
        onFocus={(i) => setFocusId(tracks[i]!.id)}
        grid={gridName}
        onGrid={setGridName}
        drawing={drawing}
        onDrawing={setDrawing}
        remove={selected.size === 0 ? undefined : () => add({ kind: 'remove' })}
        said={
          one !== undefined && !at
            ? noteWords(one)
            : selected.size > 0
              ? `${count(selected.size, 'note')} selected`
              : at || count(table.count, 'note')
        }
      />
      <Canvases
        plane={plane}
        scene={{
          table,
          density,
          meters,
          focus,
          selected: marks,
          ghost: hand.ghost ?? waiting,
          drawing: hand.drawn,
          rubber: hand.rubber,
          bars,
          keyName,
        }}
        hand={hand}
        onKeyDown={onKeyDown}
        point={setAt}
      />
      <LowerLane
        song={song}
        track={tracks[focus]!}
        events={events[focus]!}
        plane={plane}
        table={table}
        focus={focus}
        selected={marks}
        any={selected.size > 0}
        velocities={(values) =>
          step.mutate({
            operation: 'velocity.stroke',
            settings: { velocities: byTrack(table, tracks, values) },
          })
        }
        step={step}
      />
    </>
  );

  function noteWords(n: number): string {
    return `${positionText(positionAt(meters, table.from[n]!))}  ${keyName(table.key[n]!)}  velocity ${table.velocity[n]}`;
  }
}

/** The note of the track in focus that comes next behind, or before, all that are selected. */
function nextNote(
  table: NoteTable,
  focus: number,
  selected: ReadonlySet<number>,
  by: 1 | -1,
): number | undefined {
  const last = [...selected].reduce(
    (a, b) => (by > 0 ? Math.max(a, b) : Math.min(a, b)),
    by > 0 ? -1 : table.count,
  );
  for (let n = last + by; n >= 0 && n < table.count; n += by)
    if (table.track[n] === focus) return n;
  return undefined;
}

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
  readonly plane: Plane;
  readonly scene: NoteScene;
  readonly hand: ReturnType<typeof useNoteHand>;
  readonly onKeyDown: (e: React.KeyboardEvent) => void;
  /** Place and key under the pointer, in words; '' where it is elsewhere. */
  readonly point: (said: string) => void;
}

/** The notes over their grid, with the names of keys beside them. */
function Canvases({ plane, scene, hand, onKeyDown, point }: CanvasesProps) {
  const { paint, paintGutter } = usePaint(plane, scene);
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
      </div>
    </div>
  );
}

/** How the notes, the grid behind them and the names of keys beside them are drawn. */
function usePaint(
  plane: Plane,
  { table, density, meters, focus, selected, ghost, drawing, rubber, bars, keyName }: NoteScene,
) {
  const scene = useMemo(
    () => ({ table, density, meters, focus, selected, ghost, drawing, rubber, bars, keyName }),
    [table, density, meters, focus, selected, ghost, drawing, rubber, bars, keyName],
  );
  const paint = useCallback<PlaneDraw>(
    (c, _, inks) => {
      drawGrid(c, plane, plane.height, { meters, bars, keys: true }, inks);
      drawNotes(c, plane, scene, inks);
    },
    [plane, scene, meters, bars],
  );
  const paintGutter = useCallback<PlaneDraw>(
    (c, _, inks) => drawGutter(c, plane, keyName, inks),
    [plane, keyName],
  );
  return { paint, paintGutter };
}

const usualVelocity = (track: TrackView): number =>
  Math.min(127, Math.max(1, Math.round(track.velocity?.mean ?? 80)));

function allOf(
  { count: all, track }: { count: number; track: Uint32Array },
  focus: number,
): number[] {
  const found: number[] = [];
  for (let n = 0; n < all; n++) if (track[n] === focus) found.push(n);
  return found;
}
