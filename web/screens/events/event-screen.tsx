import { useVirtualizer } from '@tanstack/react-virtual';
import { Trash2 } from 'lucide-react';
import { useDeferredValue, useMemo, useRef, useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import type { Events } from '#core/smf/events.ts';
import { indexEvents, type EventIndex } from '#core/song/event-index.ts';
import { problemOf } from '../../api/client.ts';
import { useStep } from '../../api/queries.ts';
import { useTrackEvents } from '../../api/track-events.ts';
import { Button } from '../../components/button.tsx';
import { ProblemNote } from '../../components/problem-note.tsx';
import { count } from '../../components/text.ts';
import { usePreferences } from '../../state/preferences.ts';
import { useScope } from '../../state/scope.ts';
import { isTyping } from '../song/song-frame.tsx';
import { useThisSong } from '../song/use-song.ts';
import { EventRow, eventRowHeight, useWording } from './event-row.tsx';
import { eventFilter, kinds, type Kind } from './filter.ts';
import { spansOf } from '../song/spans.ts';

/** Browsers draw no taller than this; more rows are reached by filtering. */
const tallest = 30_000_000;

/** Every event of the selected tracks, or of all, as rows. */
export function EventScreen() {
  const song = useThisSong();
  const selected = useScope((s) => s.tracks);
  const tracks = useMemo(() => (selected.size === 0 ? song.tracks : song.tracks.filter((t) => selected.has(t.id))), [song.tracks, selected]);
  const { events, error } = useTrackEvents(tracks);
  const [kind, setKind] = useState<Kind>('everything');
  const [words, setWords] = useState('');
  const middleC = usePreferences((p) => p.middleC);
  const wanted = useDeferredValue(words);
  const index = useMemo(() => (events ? indexEvents(events, eventFilter(kind, wanted, song.encoding as 'UTF-8', middleC)) : undefined), [events, kind, wanted, song.encoding, middleC]);
  return (
    <main aria-label="Event list" className="flex min-h-0 flex-col px-4 pt-3">
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <h2 className="text-[16px] font-semibold">Event list</h2>
        <span className="text-faint">{selected.size === 0 ? 'all tracks' : tracks.length === 1 ? tracks[0]!.name || 'one track' : count(tracks.length, 'track')}; choose others on the sheet</span>
        <label className="ml-auto flex items-center gap-1.5">
          Show
          <select className="rounded border border-line bg-sheet px-1.5 py-0.5" value={kind} onChange={(e) => setKind(e.target.value as Kind)}>
            {kinds.map((k) => (
              <option key={k}>{k}</option>
            ))}
          </select>
        </label>
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
  const step = useStep(song.id, song.revision);
  const shown = Math.min(index.count, Math.floor(tallest / eventRowHeight));
  const virtual = useVirtualizer({ count: shown, getScrollElement: () => scroller.current, estimateSize: () => eventRowHeight, overscan: 10 });
  const wording = useWording(song);
  const labels = useMemo(() => tracks.map((t) => t.name || `track ${song.tracks.indexOf(t) + 1}`), [tracks, song.tracks]);
  const remove = (): void => {
    if (chosen.size > 0) step.mutate({ operation: 'events.delete', settings: { rows: spansOf(chosen, index, tracks) } });
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
      </div>
      <div role="row" aria-hidden className="grid grid-cols-[110px_96px_minmax(90px,180px)_34px_150px_minmax(140px,1fr)_210px] gap-3 border-b border-line px-2 text-[11.5px] text-faint">
        <span>Bar.beat.tick</span>
        <span>Time</span>
        <span>Track</span>
        <span className="text-right">Ch</span>
        <span>Event</span>
        <span>Value</span>
        <span>Bytes</span>
      </div>
      <div ref={scroller} tabIndex={0} role="listbox" aria-label="Events" aria-multiselectable aria-activedescendant={`event-${focus}`} className="min-h-0 flex-1 overflow-auto" onKeyDown={onKeyDown}>
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => {
            const t = index.track[item.index]!;
            return <EventRow key={item.key} n={item.index} top={item.start} events={events[t]!} row={index.row[item.index]!} label={labels[t]!} wording={wording} chosen={chosen.has(item.index)} pick={pick} />;
          })}
        </div>
      </div>
    </>
  );
}
