import { stripScale } from '../../drawing/bars.ts';
import { useMarked } from '../../state/marked.ts';
import { useVirtualizer, type Virtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { VerticalDrag } from '../../components/vertical-drag.tsx';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { useFindings } from '../../api/queries.ts';
import { usePreferences } from '../../state/preferences.ts';
import { dropped } from './dropped.ts';
import { SheetHead } from './head.tsx';
import { lanesOf } from './lanes.ts';
import { Row, rowHeight, type RowActions } from './row.tsx';
import { sorted, type Sorting } from './sorting.ts';
import { useSheetKeys } from './use-sheet-keys.ts';
import { useWidth } from './use-width.ts';
import { howHeard, useHeardTracks } from '../../state/hearing.ts';
import { outgoing } from '../../handoff/drag-out.ts';
import type { TrackActions } from './use-track-actions.ts';

/** Room that everything but the lanes takes, and each lane. */
const fixedWidth = 700;
const laneWidth = 19;

/** The tracks as rows. Only the rows in view are there: ten thousand scroll like ten. */
export function Sheet({ song, actions }: { song: SongView; actions: TrackActions }) {
  const scroller = useRef<HTMLDivElement>(null);
  const width = useWidth(scroller);
  const [sorting, setSorting] = useState<Sorting>({ by: 'place', down: true });
  const tracks = useMemo(() => sorted(song.tracks, sorting), [song.tracks, sorting]);
  const lanes = useLanes(song, width);
  const virtual = useVirtualizer({
    count: tracks.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const { focused, setFocused, onKeyDown } = useSheetKeys(tracks, actions, scroller, (index) =>
    virtual.scrollToIndex(index),
  );
  return (
    <main aria-label="Track sheet" className="min-h-0 min-w-0">
      <div ref={scroller} className="h-full overflow-auto" onKeyDown={onKeyDown}>
        <VerticalDrag
          ids={tracks.map((t) => t.id)}
          keys="With the row in focus, press Alt and an arrow key to move the track."
          dropped={(id, onto) => {
            const { ids, before } = dropped(song, actions.selected, id, onto);
            actions.moveBefore(ids, before);
          }}
        >
          <table
            role="grid"
            aria-label={`Tracks of ${song.title}`}
            aria-rowcount={tracks.length + 1}
            aria-multiselectable
            className="w-full border-collapse"
          >
            <SheetHead
              song={song}
              lanes={lanes}
              sorting={sorting}
              sort={setSorting}
              actions={actions}
            />
            <tbody>
              <RowsInView
                song={song}
                tracks={tracks}
                lanes={lanes}
                virtual={virtual}
                focused={focused}
                setFocused={setFocused}
                inPlace={sorting.by === 'place' && sorting.down}
                actions={actions}
              />
            </tbody>
          </table>
        </VerticalDrag>
      </div>
    </main>
  );
}

interface RowsProps {
  readonly song: SongView;
  readonly tracks: readonly TrackView[];
  readonly lanes: ReturnType<typeof useLanes>;
  readonly virtual: Virtualizer<HTMLDivElement, Element>;
  readonly focused: number;
  readonly setFocused: (index: number) => void;
  /** They stand in the order of the song, and can be moved. */
  readonly inPlace: boolean;
  readonly actions: TrackActions;
}

/** The rows in view, and the room of those above and below. */
function RowsInView(props: RowsProps) {
  const { song, tracks, lanes, virtual, focused, inPlace, actions } = props;
  const middleC = usePreferences((p) => p.middleC);
  const places = useMemo(() => new Map(song.tracks.map((t, i) => [t.id, i + 1])), [song.tracks]);
  const findings = useFindingCounts(song);
  const heard = useHeardTracks(song);
  const marked = useMarkedParts(song);
  const rowActions = useRowActions(song, tracks, actions, props.setFocused);
  const shown = virtual.getVirtualItems();
  const above = shown[0]?.start ?? 0;
  const below = virtual.getTotalSize() - (shown.at(-1)?.end ?? 0);
  return (
    <>
      {above > 0 && <tr style={{ height: above }} aria-hidden />}
      {shown.map(({ index }) => {
        const track = tracks[index]!;
        const map = song.mapTrack && track.id === song.tracks[0]!.id;
        return (
          <Row
            key={track.id}
            track={track}
            place={places.get(track.id)!}
            map={map}
            lanes={lanes}
            bars={song.timing.bars}
            middleC={middleC}
            selected={actions.selected.has(track.id)}
            focusable={index === Math.min(focused, tracks.length - 1)}
            editing={actions.editing === track.id}
            movable={inPlace && !map}
            heard={map ? 'heard' : howHeard(heard, track.id)}
            findings={findings.get(track.id) ?? 0}
            marked={marked.get(track.id)}
            actions={rowActions}
          />
        );
      })}
      {below > 0 && <tr style={{ height: below }} aria-hidden />}
    </>
  );
}

/** As many lanes as there is room for. */
function useLanes({ tracks, timing }: SongView, width: number) {
  const fitting = Math.max(5, Math.floor((width - fixedWidth) / laneWidth) + 4);
  return useMemo(() => lanesOf(tracks, timing.bars, fitting), [tracks, timing.bars, fitting]);
}

/** How many open findings each track has. */
function useFindingCounts(song: SongView): ReadonlyMap<string, number> {
  const { data } = useFindings(song.id, song.revision);
  return useMemo(() => {
    const counted = new Map<string, number>();
    for (const finding of data?.findings ?? [])
      if (!finding.leftAlone)
        for (const id of finding.tracks) counted.set(id, (counted.get(id) ?? 0) + 1);
    return counted;
  }, [data]);
}

/** By track, where something is marked, as parts of the song's length. */
function useMarkedParts(song: SongView): ReadonlyMap<string, readonly number[]> {
  const ticks = useMarked(song)?.ticks;
  return useMemo(() => {
    const scale = stripScale(song.timing);
    return new Map(
      Object.entries(ticks ?? {}).map(([id, its]) => [id, its.map((t) => scale.at(t))]),
    );
  }, [song.timing, ticks]);
}

/** What a row asks for; what it is asked of gets the focus too. */
function useRowActions(
  { id: song, title }: SongView,
  tracks: readonly TrackView[],
  actions: TrackActions,
  focus: (index: number) => void,
): RowActions {
  return useMemo(
    () => ({
      pick: (id, how) => {
        focus(tracks.findIndex((t) => t.id === id));
        actions.pick(id, how);
      },
      rename: actions.edit,
      choose: actions.choose,
      hearAgain: actions.hearAgain,
      out: (id, called) => outgoing(song, `${title} ${called}`, { tracks: [id] }),
      renamed: (id, name) =>
        name === undefined ? actions.edit(undefined) : actions.rename([id], name),
    }),
    [song, title, tracks, actions, focus],
  );
}
