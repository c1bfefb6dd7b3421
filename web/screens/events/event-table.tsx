import { keyNow } from '../../keys/shown.ts';
import { useVirtualizer, type Virtualizer } from '@tanstack/react-virtual';
import { Pencil, Plus, Trash2 } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { META, meta, type Events } from '#core/smf/events.ts';
import { Button } from '../../components/button.tsx';
import { count } from '../../components/text.ts';
import { usePreferences } from '../../state/preferences.ts';
import { useTellChosen } from '../../state/chosen.ts';
import { useMarked } from '../../state/marked.ts';
import { EventForm, type Typed } from './event-form.tsx';
import { EventRow, eventRowHeight, useWording, type Wording } from './event-row.tsx';
import { fieldsOfRow } from './fields.ts';
import { keepEvents, keptEvents, markedIn } from './kept-events.ts';
import { startOf, useKeepPlace } from './list-place.ts';
import { EditSeveralForm } from './edit-several.tsx';
import { InsertEvent } from './insert-event.tsx';
import { useEventActs, type Listed } from './use-event-acts.ts';
import { useEventKeys } from './use-event-keys.ts';
import { say } from '../../messages/messages.ts';

/** Browsers draw no taller than this; more rows are reached by filtering. */
const tallest = 30_000_000;

/** Events as rows, of which only those in view are drawn: chosen, edited in place, deleted and inserted. */
export function EventTable({
  narrowed,
  behind,
  steps,
  ...list
}: Listed & { narrowed: boolean; behind: boolean; steps: () => void }) {
  const { song, tracks, events, index } = list;
  const scroller = useRef<HTMLDivElement>(null);
  const marked = useMarked(song);
  const [chosen, choose] = useState(() => (marked ? markedIn(list, marked) : keptEvents(list)));
  const [start] = useState(() => startOf(chosen, marked !== undefined, index.count));
  const setChosen = (rows: ReadonlySet<number>): void => {
    choose(rows);
    keepEvents(list, rows);
  };
  useEffect(() => {
    if (start.focused) scroller.current?.focus({ preventScroll: true });
  }, [start]);
  const acts = useEventActs(list, chosen, behind);
  const { step, editing, inserting, edit, insert } = acts;
  const shown = Math.min(index.count, Math.floor(tallest / eventRowHeight));
  const virtual = useVirtualizer({
    count: shown,
    getScrollElement: () => scroller.current,
    estimateSize: () => eventRowHeight,
    overscan: 10,
    initialOffset: start.top,
  });
  const wording = useWording(song);
  useTellChosen('event', chosen, index, {
    revision: song.revision,
    tracks,
    events,
    track: tracks.length === 1 ? tracks[0]!.id : undefined,
  });
  const { focus, pick, onKeyDown } = useEventKeys(
    {
      shown,
      scroller,
      virtual,
      remove: acts.remove,
      removeShown: narrowed ? acts.removeShown : sayAll,
      all: () => chooseAll(index.count, setChosen),
      edit,
      insert: () => insert(true),
    },
    chosen,
    setChosen,
    Math.min(start.row, Math.max(0, shown - 1)),
  );
  useKeepPlace(scroller, focus, editing !== undefined || acts.editingAll || inserting);
  /** A form put away, the keys go to the list again. */
  const toList = (): void => scroller.current?.focus({ preventScroll: true });
  const cancel = (): void => {
    acts.cancel();
    toList();
  };
  const keepSeveral = (asked: Parameters<typeof acts.keepSeveral>[0]): void => {
    acts.keepSeveral(asked);
    toList();
  };
  return (
    <>
      <Acts
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
      {inserting && (
        <InsertEvent
          song={song}
          tracks={tracks}
          meters={wording.meters}
          at={placeOf(list, wording, focus)}
          track={tracks[index.track[focus] ?? 0]!.id}
          step={step}
          close={() => insert(false)}
        />
      )}
      {acts.editingAll && chosen.size > 1 && (
        <EditSeveralForm list={list} chosen={chosen} done={keepSeveral} close={cancel} />
      )}
      <div className="keeps-height relative flex min-h-0 flex-1 overflow-x-auto">
        <div className="flex min-h-0 min-w-[860px] flex-1 flex-col">
          <Columns />
          <div className="relative flex min-h-0 flex-1 flex-col">
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
          </div>
        </div>
      </div>
    </>
  );
}

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

/** More events than this no page holds one by one. */
const mostChosen = 1_000_000;
function chooseAll(listed: number, choose: (rows: ReadonlySet<number>) => void): void {
  if (listed <= mostChosen) return choose(new Set(Array.from({ length: listed }, (_, n) => n)));
  say(`More than ${count(mostChosen, 'event')} are listed`, {
    description: 'Narrow the list first: to a kind, words, bars.',
  });
}

/** A key too many must not empty a song. */
const sayAll = (): void =>
  say('Everything is listed', {
    description: 'Narrow the list first: to a kind, words, bars.',
  });

/** How many there are, how many of them are listed, and how many chosen. */
const countWords = (all: number, shown: number, chosen: number): string =>
  `${count(all, 'event')}${shown < all ? `; the first ${shown.toLocaleString('en')} are listed, filter for the others` : ''}${chosen > 0 ? `, ${chosen.toLocaleString('en')} selected` : ''}`;

interface ActsProps {
  readonly counted: string;
  readonly chosen: number;
  readonly busy: boolean;
  readonly inserting: boolean;
  readonly remove: () => void;
  /** Undefined where everything is listed. */
  readonly removeShown: (() => void) | undefined;
  readonly edit: () => void;
  readonly insert: () => void;
  readonly steps: () => void;
}

/** What can be done to events, above them. */
const Acts = ({
  counted,
  chosen,
  busy,
  inserting,
  remove,
  removeShown,
  edit,
  insert,
  steps,
}: ActsProps) => (
  <div className="mb-1 flex items-center gap-3">
    <p className="text-faint" aria-live="polite">
      {counted}
    </p>
    <Button disabled={chosen === 0} title="What to do with the chosen events" onClick={steps}>
      Steps …
    </Button>
    <Button kind="harm" disabled={chosen === 0 || busy} onClick={remove}>
      <Trash2 size={13} aria-hidden /> Delete
    </Button>
    {removeShown && (
      <Button
        kind="harm"
        disabled={busy}
        onClick={removeShown}
        title={`Everything that is listed, in one step (${keyNow('events-remove-shown')})`}
      >
        Delete all shown
      </Button>
    )}
    <Button
      disabled={chosen === 0 || busy}
      onClick={edit}
      title={chosen > 1 ? 'Edit all of them at once (Enter)' : 'Edit (Enter, or a double click)'}
    >
      <Pencil size={13} aria-hidden /> Edit
    </Button>
    <Button
      aria-expanded={inserting}
      disabled={busy}
      onClick={insert}
      title={`Insert an event (${keyNow('events-insert')})`}
    >
      <Plus size={13} aria-hidden /> Insert
    </Button>
  </div>
);

/** The form over the row that it edits; a row that is scrolled away has it at the edge. */
function EditInPlace({
  song,
  events,
  row,
  wording,
  top,
  done,
  cancel,
}: {
  song: SongView;
  events: Events;
  row: number;
  wording: Wording;
  top: number;
  done: (typed: Typed) => string | undefined;
  cancel: () => void;
}) {
  const middleC = usePreferences((p) => p.middleC);
  return (
    <section
      aria-label="Edit the event"
      className="absolute inset-x-0 z-10 flex min-h-[30px] items-center rounded border border-amber bg-amber-soft px-2 py-0.5 shadow"
      style={{ top: Math.max(0, top - 4) }}
    >
      <EventForm
        key={`${row} ${events.count}`}
        meters={wording.meters}
        position={wording.position(events.atTick[row]!)}
        channel={events.status[row]! < 0xf0 ? (events.status[row]! & 15) + 1 : undefined}
        fields={
          isEndOfTrack(events, row)
            ? []
            : fieldsOfRow(events, row, { encoding: song.encoding, middleC })
        }
        verb="Keep"
        done={done}
        cancel={cancel}
      />
    </section>
  );
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

const isEndOfTrack = (events: Events, row: number): boolean =>
  events.status[row] === META && events.data1[row] === meta.endOfTrack;
