import type { Virtualizer } from '@tanstack/react-virtual';
import { useMemo, type ReactNode } from 'react';
import { EditInPlace } from './edit-in-place.tsx';
import { EditSeveralForm } from './edit-several.tsx';
import { countWords, EventActsBar } from './event-acts-bar.tsx';
import { EventRow, eventRowHeight, useWording, type Wording } from './event-row.tsx';
import { InsertEvent } from './insert-event.tsx';
import type { Listed } from './use-event-acts.ts';
import { useEventList } from './use-event-list.ts';

interface Props extends Listed {
  readonly narrowed: boolean;
  readonly behind: boolean;
  readonly steps: () => void;
}

/** Events as rows, of which only those in view are drawn: chosen, edited in place, deleted and inserted. */
export function EventTable({ narrowed, behind, steps, ...list }: Props) {
  const { song, events, index } = list;
  const wording = useWording(song);
  const { scroller, virtual, shown, chosen, focus, pick, onKeyDown, acts, cancel, keepSeveral } =
    useEventList(list, narrowed, behind);
  const { editing, inserting, edit, insert } = acts;
  return (
    <>
      <EventActsBar
        counted={countWords(index.count, shown, chosen.size)}
        chosen={chosen.size}
        busy={acts.busy}
        inserting={inserting}
        remove={acts.remove}
        removeShown={narrowed ? acts.removeShown : undefined}
        edit={() => edit(chosen.has(focus) ? focus : (chosen.values().next().value ?? focus))}
        insert={() => insert(!inserting)}
        steps={steps}
      />
      {inserting && <Inserting list={list} wording={wording} focus={focus} acts={acts} />}
      {acts.editingAll && chosen.size > 1 && (
        <EditSeveralForm list={list} chosen={chosen} done={keepSeveral} close={cancel} />
      )}
      <Beneath>
        <div
          ref={scroller}
          tabIndex={0}
          role="listbox"
          data-begin
          aria-label="Events"
          aria-multiselectable
          aria-activedescendant={`event-${focus}`}
          className="min-h-0 flex-1 overflow-auto"
          onKeyDown={onKeyDown}
        >
          <ListedRows
            {...list}
            virtual={virtual}
            wording={wording}
            chosen={chosen}
            pick={pick}
            edit={edit}
          />
        </div>
        {editing !== undefined && editing < index.count && (
          <EditInPlace
            song={song}
            events={events[index.track[editing]!]!}
            row={index.row[editing]!}
            wording={wording}
            top={editing * eventRowHeight - (virtual.scrollOffset ?? 0)}
            done={(typed) => acts.keep(editing, typed)}
            cancel={cancel}
          />
        )}
      </Beneath>
    </>
  );
}

interface InsertingProps {
  readonly list: Listed;
  readonly wording: Wording;
  readonly focus: number;
  readonly acts: ReturnType<typeof useEventList>['acts'];
}

/** A new event, where the focus is and in its track. */
const Inserting = ({ list, wording, focus, acts }: InsertingProps) => (
  <InsertEvent
    song={list.song}
    tracks={list.tracks}
    meters={wording.meters}
    at={placeOf(list, wording, focus)}
    track={list.tracks[list.index.track[focus] ?? 0]!.id}
    step={acts.step}
    close={() => acts.insert(false)}
  />
);

/** What stands beneath the names of the columns: both are scrolled sideways together. */
const Beneath = ({ children }: { children: ReactNode }) => (
  <div className="keeps-height relative flex min-h-0 flex-1 overflow-x-auto">
    <div className="flex min-h-0 min-w-[860px] flex-1 flex-col">
      <Columns />
      <div className="relative flex min-h-0 flex-1 flex-col">{children}</div>
    </div>
  </div>
);

interface RowsProps extends Listed {
  readonly virtual: Virtualizer<HTMLDivElement, Element>;
  readonly wording: Wording;
  readonly chosen: ReadonlySet<number>;
  readonly pick: (n: number, extend: boolean, add: boolean) => void;
  readonly edit: (n: number) => void;
}

/** The rows in view. */
function ListedRows({
  song,
  tracks,
  events,
  index,
  virtual,
  wording,
  chosen,
  pick,
  edit,
}: RowsProps) {
  const labels = useMemo(
    () => tracks.map((t) => t.name || `track ${song.tracks.indexOf(t) + 1}`),
    [tracks, song.tracks],
  );
  return (
    <div className="relative" style={{ height: virtual.getTotalSize() }}>
      {virtual.getVirtualItems().map(({ key, index: n, start }) => (
        <EventRow
          key={key}
          n={n}
          top={start}
          events={events[index.track[n]!]!}
          row={index.row[n]!}
          label={labels[index.track[n]!]!}
          wording={wording}
          chosen={chosen.has(n)}
          pick={pick}
          edit={edit}
        />
      ))}
    </div>
  );
}

/** Where a row stands, or the beginning where there is none. */
function placeOf({ events, index }: Listed, wording: Wording, n: number): string {
  const tick = events[index.track[n] ?? 0]?.atTick[index.row[n] ?? 0];
  return index.count > 0 ? wording.position(tick ?? 0) : '1.1.0';
}

/** What stands in which column. */
const Columns = () => (
  <div
    role="row"
    aria-hidden
    className="grid grid-cols-[110px_96px_70px_minmax(90px,170px)_34px_140px_minmax(140px,1fr)_170px] gap-3 border-b border-line px-2 text-[11.5px] text-faint"
  >
    <span>Bar.beat.tick</span>
    <span>Time</span>
    <span>Chord</span>
    <span>Track</span>
    <span className="text-right">Ch</span>
    <span>Event</span>
    <span>Value</span>
    <span>Bytes</span>
  </div>
);
