import { useCallback, useMemo, useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import type { Events } from '#core/smf/events.ts';
import { keyWords } from '#core/song/event-words.ts';
import { noteTable } from '#core/song/note-table.ts';
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
    const last = [...selected].reduce(
      (a, b) => (by > 0 ? Math.max(a, b) : Math.min(a, b)),
      by > 0 ? -1 : table.count,
    );
    for (let n = last + by; n >= 0 && n < table.count; n += by) {
      if (table.track[n] !== focus) continue;
      select([n]);
      if (table.from[n]! < plane.tick || table.from[n]! > plane.lastTick)
        plane.scroll(plane.x(table.from[n]!) - plane.width / 3, 0);
      return;
    }
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
  const ghost = hand.ghost ?? waiting;
  const onKeyDown = noteKeys(plane, grid.step, {
    any: selected.size > 0 || queue.length > 0,
    shift: (its, louder) => add({ kind: 'nudge', nudge: { ...its, louder }, rests: true }),
    remove: () => add({ kind: 'remove' }),
    go: (by) => add({ kind: 'go', by }),
    all: () => add({ kind: 'all' }),
    none: () => (drawing ? setDrawing(false) : add({ kind: 'none' })),
  });

  const { paint, paintGutter } = usePaint(plane, {
    table,
    density,
    meters,
    focus,
    selected: marks,
    ghost,
    drawing: hand.drawn,
    rubber: hand.rubber,
    bars,
    keyName,
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
              setAt(placeUnder(e));
            }}
            onPointerLeave={() => setAt('')}
          />
        </div>
      </div>
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
          step.mutate({ operation: 'velocity.stroke', settings: { velocities: byTrack(values) } })
        }
        step={step}
      />
    </>
  );

  /** Place and key under the pointer. */
  function placeUnder(e: React.PointerEvent): string {
    const box = e.currentTarget.getBoundingClientRect();
    return `${positionText(positionAt(meters, Math.max(0, Math.round(plane.tickAt(e.clientX - box.left)))))}  ${keyName(plane.keyAt(e.clientY - box.top))}`;
  }

  function noteWords(n: number): string {
    return `${positionText(positionAt(meters, table.from[n]!))}  ${keyName(table.key[n]!)}  velocity ${table.velocity[n]}`;
  }

  function byTrack(values: ReadonlyMap<number, number>): Record<string, [number, number][]> {
    const found: Record<string, [number, number][]> = {};
    for (const [n, velocity] of values)
      (found[tracks[table.track[n]!]!.id] ??= []).push([table.row[n]!, velocity]);
    return found;
  }
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
