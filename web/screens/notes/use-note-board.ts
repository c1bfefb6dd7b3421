import { useCallback, useMemo, useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import type { Events } from '#core/smf/events.ts';
import { keyWords } from '#core/song/event-words.ts';
import type { NoteTable } from '#core/song/note-table.ts';
import { meterMap } from '#core/timing/meter-map.ts';
import { useStep } from '../../api/queries.ts';
import type { NoteScene } from '../../drawing/notes.ts';
import { showBars, showSong, showSpan } from '../../plane/zoom-buttons.tsx';
import { usePlane } from '../../plane/use-plane.ts';
import { useTellChosen } from '../../state/chosen.ts';
import { firstMarked, useMarked } from '../../state/marked.ts';
import { usePreferences } from '../../state/preferences.ts';
import { useScope } from '../../state/scope.ts';
import { notesShown } from './last-table.ts';
import { gridOf, type GridName } from './snap.ts';
import { useHandSteps } from './use-hand-steps.ts';
import { useNoteHand } from './use-note-hand.ts';
import { noteKeys } from './use-note-keys.ts';
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
  const middleC = usePreferences((p) => p.middleC);
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
    steps,
    show: (what) => {
      if (what === 'song') showSong(plane);
      else if (what === 'scope' && bars) showBars(plane, song, bars);
      else if (what === 'selection' && selected.size > 0) showSpan(plane, spanOf(table, selected));
    },
    none: () => (drawing ? setDrawing(false) : add({ kind: 'none' })),
  });
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
  return {
    plane,
    table,
    scene,
    focus,
    setFocus: setFocusId,
    gridName,
    setGridName,
    drawing,
    setDrawing,
    selected,
    keyName,
    hand,
    onKeyDown,
    add,
    step,
  };
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
