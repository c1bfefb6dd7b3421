import { useVirtualizer } from '@tanstack/react-virtual';
import { Pencil, Plus, Trash2 } from 'lucide-react';
import { useDeferredValue, useMemo, useRef, useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { META, meta, payloadOf, type Events } from '#core/smf/events.ts';
import { indexEvents, type EventIndex } from '#core/song/event-index.ts';
import { barTick, meterMap } from '#core/timing/meter-map.ts';
import { problemOf } from '../../api/client.ts';
import { useStep } from '../../api/queries.ts';
import { useTrackEvents } from '../../tracks/track-events.ts';
import { Button } from '../../components/button.tsx';
import { ProblemNote } from '../../components/problem-note.tsx';
import { count } from '../../components/text.ts';
import { usePreferences } from '../../state/preferences.ts';
import { useScope } from '../../state/scope.ts';
import { isTyping } from '../../components/is-typing.ts';
import { useThisSong } from '../../state/use-song.ts';
import { EventRow, eventRowHeight, useWording, type Wording } from './event-row.tsx';
import { EventForm, type Typed } from './event-form.tsx';
import { fieldsOfRow, partsFrom } from './fields.ts';
import { eventFilter, kinds, type Kind, type Ranges } from './filter.ts';
import { InsertEvent } from './insert-event.tsx';
import { RangeFields } from './range-fields.tsx';
import { spansOf } from '../../state/spans.ts';
import { Choice, asSaid } from '../../fields/choice.tsx';

/** Browsers draw no taller than this; more rows are reached by filtering. */
const tallest = 30_000_000;

/** Every event of the selected tracks and bars, or of all, as rows. */
export function EventScreen() {
  const song = useThisSong();
  const selected = useScope((s) => s.tracks);
  const bars = useScope((s) => s.bars);
  const tracks = useMemo(() => (selected.size === 0 ? song.tracks : song.tracks.filter((t) => selected.has(t.id))), [song.tracks, selected]);
  const { events, error } = useTrackEvents(tracks);
  const [kind, setKind] = useState<Kind>('everything');
  const [words, setWords] = useState('');
  const [chosen, setChosen] = useState<Ranges>({});
  const middleC = usePreferences((p) => p.middleC);
  const wanted = useDeferredValue(words);
  const ranges = useDeferredValue(chosen);
  const ticks = useMemo(() => {
    if (!bars) return undefined;
    const map = meterMap(song.timing.meters, song.division);
    return { from: barTick(map, bars.from), to: bars.to >= song.timing.bars ? Infinity : barTick(map, bars.to + 1) };
  }, [bars, song]);
  const index = useMemo(() => (events ? indexEvents(events, eventFilter(kind, wanted, song.encoding, middleC, ticks ? { ...ranges, ticks } : ranges)) : undefined), [events, kind, wanted, song.encoding, middleC, ranges, ticks]);
  return (
    <main aria-label="Event list" className="flex min-h-0 flex-col px-4 pt-3">
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <h2 className="text-[16px] font-semibold">Event list</h2>
        <span className="text-faint">
          {selected.size === 0 ? 'all tracks' : tracks.length === 1 ? tracks[0]!.name || 'one track' : count(tracks.length, 'track')}
          {bars && `, ${bars.from === bars.to ? `bar ${bars.from}` : `bars ${bars.from} to ${bars.to}`}`}; choose others on the sheet
        </span>
        <span className="ml-auto">
          <Choice
            label="Show"
            value={kind}
            options={asSaid(kinds)}
            set={(to) => {
              setKind(to);
              setChosen({});
            }}
          />
        </span>
        <RangeFields kind={kind} tracks={tracks} ranges={chosen} set={setChosen} />
        <input type="search" aria-label="Words in the event" placeholder="expression, C4, velocity 64 …" className="w-[210px] rounded border border-line bg-sheet px-2 py-0.5 placeholder:text-faint" value={words} onChange={(e) => setWords(e.target.value)} />
      </div>
      {error ? <ProblemNote problem={problemOf(error)} harm /> : !events || !index ? <p className="text-faint">Fetching the events …</p> : <EventTable key={`${kind} ${song.revision}`} song={song} tracks={tracks} events={events} index={index} />}
    </main>
  );
}

function EventTable({ song, tracks, events, index }: { song: SongView; tracks: readonly TrackView[]; events: readonly Events[]; index: EventIndex }) {
  const scroller = useRef<HTMLDivElement>(null);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [focus, setFocus] = useState(0);
  const [anchor, setAnchor] = useState(0);
  const [editing, setEditing] = useState<number>();
  const [inserting, setInserting] = useState(false);
  const step = useStep(song.id, song.revision);
  const shown = Math.min(index.count, Math.floor(tallest / eventRowHeight));
  const virtual = useVirtualizer({ count: shown, getScrollElement: () => scroller.current, estimateSize: () => eventRowHeight, overscan: 10 });
  const wording = useWording(song);
  const labels = useMemo(() => tracks.map((t) => t.name || `track ${song.tracks.indexOf(t) + 1}`), [tracks, song.tracks]);
  const remove = (): void => {
    if (chosen.size > 0) step.mutate({ operation: 'events.delete', settings: { rows: spansOf(chosen, index, tracks) } });
  };
  const edit = (n: number): void => {
    const t = index.track[n];
    if (t === undefined) return;
    setInserting(false);
    setEditing(n);
  };
  /** What is wrong with what was typed, if anything; otherwise the step is taken. */
  const keep = (n: number, { atTick, channel, fields }: Typed): string | undefined => {
    const e = events[index.track[n]!]!;
    const row = index.row[n]!;
    const parts = partsFrom(e.status[row]!, e.data1[row]!, fields, payloadOf(e, row), song.encoding);
    if ('wrong' in parts) return parts.wrong;
    const place = atTick === e.atTick[row] ? {} : { atTick };
    step.mutate({ operation: 'events.edit', settings: { track: tracks[index.track[n]!]!.id, row, ...place, ...(channel === undefined ? {} : { channel }), ...parts } });
    setEditing(undefined);
    return undefined;
  };
  const pick = (n: number, extend: boolean, add: boolean): void => {
    setFocus(n);
    if (extend) return setChosen(new Set(Array.from({ length: Math.abs(n - anchor) + 1 }, (_, i) => Math.min(n, anchor) + i)));
    setAnchor(n);
    const next = new Set(add ? chosen : []);
    if (add && chosen.has(n)) next.delete(n);
    else next.add(n);
    setChosen(next);
  };
  const onKeyDown = (e: React.KeyboardEvent): void => {
    if (isTyping(e.target)) return;
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 300) / eventRowHeight) - 1);
    const to = { ArrowUp: focus - 1, ArrowDown: focus + 1, PageUp: focus - page, PageDown: focus + page, Home: 0, End: shown - 1 }[e.key];
    if (to !== undefined) {
      const n = Math.min(Math.max(0, to), shown - 1);
      pick(n, e.shiftKey, false);
      virtual.scrollToIndex(n);
    } else if (e.key === 'Delete') remove();
    else if (e.key === 'Enter' || e.key === 'F2') edit(focus);
    else if (e.key === 'Insert') setInserting(true);
    else if (e.key === 'Escape') setChosen(new Set());
    else return;
    e.preventDefault();
  };
  return (
    <>
      <div className="mb-1 flex items-center gap-3">
        <p className="text-faint" aria-live="polite">
          {count(index.count, 'event')}
          {shown < index.count && `; the first ${shown.toLocaleString('en')} are listed, filter for the others`}
          {chosen.size > 0 && `, ${chosen.size.toLocaleString('en')} selected`}
        </p>
        <Button kind="harm" disabled={chosen.size === 0 || step.isPending} onClick={remove}>
          <Trash2 size={13} aria-hidden /> Delete
        </Button>
        <Button disabled={chosen.size !== 1 || step.isPending} onClick={() => edit(focus)} title="Edit (Enter, or a double click)">
          <Pencil size={13} aria-hidden /> Edit
        </Button>
        <Button aria-expanded={inserting} disabled={step.isPending} onClick={() => setInserting(!inserting)} title="Insert an event (Insert)">
          <Plus size={13} aria-hidden /> Insert
        </Button>
      </div>
      {inserting && <InsertEvent song={song} tracks={tracks} meters={wording.meters} at={index.count > 0 ? wording.position(events[index.track[focus] ?? 0]?.atTick[index.row[focus] ?? 0] ?? 0) : '1.1.0'} track={tracks[index.track[focus] ?? 0]!.id} step={step} close={() => setInserting(false)} />}
      <Columns />
      <div className="relative flex min-h-0 flex-1 flex-col">
      <div ref={scroller} tabIndex={0} role="listbox" aria-label="Events" aria-multiselectable aria-activedescendant={`event-${focus}`} className="min-h-0 flex-1 overflow-auto" onKeyDown={onKeyDown}>
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => {
            const t = index.track[item.index]!;
            return <EventRow key={item.key} n={item.index} top={item.start} events={events[t]!} row={index.row[item.index]!} label={labels[t]!} wording={wording} chosen={chosen.has(item.index)} pick={pick} edit={edit} />;
          })}
        </div>
      </div>
      {editing !== undefined && editing < index.count && (
        <EditInPlace song={song} events={events[index.track[editing]!]!} row={index.row[editing]!} wording={wording} top={editing * eventRowHeight - (virtual.scrollOffset ?? 0)} done={(typed) => keep(editing, typed)} cancel={() => setEditing(undefined)} />
      )}
      </div>
    </>
  );
}

/** The form over the row that it edits; a row that is scrolled away has it at the edge. */
function EditInPlace({ song, events, row, wording, top, done, cancel }: { song: SongView; events: Events; row: number; wording: Wording; top: number; done: (typed: Typed) => string | undefined; cancel: () => void }) {
  return (
    <section aria-label="Edit the event" className="absolute inset-x-0 z-10 flex min-h-[30px] items-center rounded border border-amber bg-amber-soft px-2 py-0.5 shadow" style={{ top: Math.max(0, top - 4) }}>
      <EventForm
        key={`${row} ${events.count}`}
        meters={wording.meters}
        position={wording.position(events.atTick[row]!)}
        channel={events.status[row]! < 0xf0 ? (events.status[row]! & 15) + 1 : undefined}
        fields={isEndOfTrack(events, row) ? [] : fieldsOfRow(events, row, song.encoding)}
        verb="Keep"
        done={done}
        cancel={cancel}
      />
    </section>
  );
}

/** What stands in which column. */
const Columns = () => (
  <div role="row" aria-hidden className="grid grid-cols-[110px_96px_minmax(90px,180px)_34px_150px_minmax(140px,1fr)_210px] gap-3 border-b border-line px-2 text-[11.5px] text-faint">
    <span>Bar.beat.tick</span>
    <span>Time</span>
    <span>Track</span>
    <span className="text-right">Ch</span>
    <span>Event</span>
    <span>Value</span>
    <span>Bytes</span>
  </div>
);

const isEndOfTrack = (events: Events, row: number): boolean => events.status[row] === META && events.data1[row] === meta.endOfTrack;
