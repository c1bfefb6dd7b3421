import { useCallback, useMemo, useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import type { Events } from '#core/smf/events.ts';
import { keyWords } from '#core/song/event-words.ts';
import type { NoteTable } from '#core/song/note-table.ts';
import { meterMap, type MeterMap } from '#core/timing/meter-map.ts';
import { useStep } from '../../api/queries.ts';
import type { NoteScene } from '../../drawing/notes.ts';
import { showBars, showSong, showSpan } from '../../plane/zoom-buttons.tsx';
import type { Plane } from '../../plane/plane.ts';
import { usePlane } from '../../plane/use-plane.ts';
import { useTellChosen } from '../../state/chosen.ts';
import { firstMarked, useMarked } from '../../state/marked.ts';
import { usePreferences } from '../../state/preferences.ts';
import { useScope, type Bars } from '../../state/scope.ts';
import { notesShown } from './last-table.ts';
import { gridOf, type Grid, type GridName } from './snap.ts';
import { useHandSteps } from './use-hand-steps.ts';
import { useNoteHand, type HandActions } from './use-note-hand.ts';
import { noteKeys, type KeyActions } from './use-note-keys.ts';
import { spanOf, useSelection } from './use-selection.ts';

export interface Board {
  readonly song: SongView;
  readonly tracks: readonly TrackView[];
  readonly events: readonly Events[];
  /** The song has gone on, and its notes are on their way. */
  readonly behind: boolean;
  /** Opens the margin with what can be done with chosen notes. */
  steps(): void;
}

/** The notes of some tracks on a plane: where they are seen, which are selected, and what hands and keys do to them. */
export function useNoteBoard({ song, tracks, events, behind, steps }: Board) {
  const step = useStep(song.id, song.revision);
  const bars = useScope((s) => s.bars);
  const meters = useMemo(
    () => meterMap(song.timing.meters, song.division),
    [song.timing.meters, song.division],
  );
  const { table, density } = useMemo(
    () => notesShown(events, song.timing.endTick),
    [events, song.timing.endTick],
  );
  const marked = useMarked(song);
  const plane = usePlane(song, tracks, bars, firstMarked(marked));
  const { focus, setFocus } = useFocus(tracks);
  const { gridName, setGridName, grid } = useGrid(song, meters);
  const [drawing, setDrawing] = useState(false);
  const { selected, select, marks } = useSelection(
    song.id,
    table,
    tracks,
    behind ? undefined : marked,
  );
  useTellChosen('note', selected, table, {
    revision: song.revision,
    tracks,
    events,
    track: tracks[focus]!.id,
  });
  const keyName = useKeyName(tracks[focus]!);
  const seen = { plane, table, focus, selected, drawing, setDrawing };
  const on = { song, step, behind, tracks, steps, select, grid, bars, ...seen };
  const { hand, onKeyDown, add, waiting } = useHands(on);
  const scene: NoteScene = {
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
  };
  return { ...seen, scene, setFocus, gridName, setGridName, keyName, hand, onKeyDown, add, step };
}

interface Hands extends Omit<Board, 'events'> {
  readonly step: ReturnType<typeof useStep>;
  readonly table: NoteTable;
  readonly focus: number;
  readonly selected: ReadonlySet<number>;
  readonly select: (notes: Iterable<number>) => void;
  readonly plane: Plane;
  readonly grid: Grid;
  readonly bars: Bars | undefined;
  readonly drawing: boolean;
  readonly setDrawing: (on: boolean) => void;
}

/** What the pointer and keys do to the notes, one act behind the other. */
function useHands({ song, step, behind, tracks, table, focus, ...board }: Hands) {
  const { selected, select, plane, grid, bars, drawing, setDrawing, steps } = board;
  const go = (by: 1 | -1): void => {
    const n = nextNote(table, focus, selected, by);
    if (n === undefined) return;
    select([n]);
    const x = plane.x(table.from[n]!);
    if (x < 0 || x > plane.width) plane.scroll(x - plane.width / 3, 0);
  };
  const { queue, add, waiting } = useHandSteps({
    song: song.id,
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
    handActs(add, table, tracks[focus]!),
  );
  const onKeyDown = noteKeys(plane, grid.step, {
    any: selected.size > 0 || queue.length > 0,
    ...keyActs(add),
    steps,
    show: (what) => {
      if (what === 'song') showSong(plane);
      else if (what === 'scope' && bars) showBars(plane, song, bars);
      else if (what === 'selection' && selected.size > 0) showSpan(plane, spanOf(table, selected));
    },
    none: () => (drawing ? setDrawing(false) : add({ kind: 'none' })),
  });
  return { hand, onKeyDown, add, waiting };
}

/** Which of the tracks is worked on, by its place among them. */
function useFocus(tracks: readonly TrackView[]) {
  const [id, setFocus] = useState(tracks[0]!.id);
  const place = tracks.findIndex((t) => t.id === id);
  return { focus: Math.max(0, place), setFocus };
}

function useGrid({ division }: SongView, meters: MeterMap) {
  const [gridName, setGridName] = useState<GridName>('1/16');
  const grid = useMemo(() => gridOf(gridName, division, meters), [gridName, division, meters]);
  return { gridName, setGridName, grid };
}

/** What a key is called: on a track of drums by its drum. */
function useKeyName({ channels, channel }: TrackView): (key: number) => string {
  const middleC = usePreferences((p) => p.middleC);
  const onDrums = channels.length === 1 && channel === 10;
  return useCallback((key) => keyWords(key, onDrums ? 9 : 0, middleC), [onDrums, middleC]);
}

type Add = ReturnType<typeof useHandSteps>['add'];

/** What hands ask for, as acts that wait for each other. */
const handActs = (add: Add, table: NoteTable, track: TrackView): HandActions => ({
  select: (notes) => add({ kind: 'select', notes: [...notes], table }),
  shift: (ghost) => add({ kind: 'nudge', nudge: { ...ghost, louder: 0 }, rests: false }),
  draw: (note) =>
    add({
      kind: 'draw',
      notes: [{ ...note, velocity: usualVelocity(track), track: track.id }],
    }),
});

const keyActs = (add: Add): Pick<KeyActions, 'shift' | 'remove' | 'go' | 'all'> => ({
  shift: (its, louder) => add({ kind: 'nudge', nudge: { ...its, louder }, rests: true }),
  remove: () => add({ kind: 'remove' }),
  go: (by) => add({ kind: 'go', by }),
  all: () => add({ kind: 'all' }),
});

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
