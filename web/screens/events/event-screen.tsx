import { useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import type { Events } from '#core/smf/events.ts';
import { indexEvents } from '#core/song/event-index.ts';
import { barTick, meterMap } from '#core/timing/meter-map.ts';
import { problemOf } from '../../api/client.ts';
import { useLoaded } from '../../tracks/track-events.ts';
import { ProblemNote } from '../../components/problem-note.tsx';
import { count } from '../../components/text.ts';
import { usePreferences } from '../../state/preferences.ts';
import { useScope } from '../../state/scope.ts';
import { ChosenMargin } from '../../step/chosen-margin.tsx';
import { useThisSong } from '../../state/use-song.ts';
import { forgetEvents } from './kept-events.ts';
import { EventTable } from './event-table.tsx';
import { eventFilter, kinds } from './filter.ts';
import { everything, keepFilter, keptFilter, type Filter } from './kept-filter.ts';
import { useMarked } from '../../state/marked.ts';
import { RangeFields } from './range-fields.tsx';
import { Choice, asSaid } from '../../fields/choice.tsx';

/** Every event of the selected tracks and bars, or of all, as rows. */
export function EventScreen() {
  const song = useThisSong();
  const selected = useScope((s) => s.tracks);
  const tracks = useMemo(
    () => (selected.size === 0 ? song.tracks : song.tracks.filter((t) => selected.has(t.id))),
    [song.tracks, selected],
  );
  const { loaded, error } = useLoaded(song, tracks);
  const events = loaded?.events;
  const marked = useMarked(song) !== undefined;
  // What is marked is to be seen, whatever is listed else.
  const [{ kind, words, ranges: chosen }, narrow] = useState(() =>
    marked ? everything : keptFilter(song.id),
  );
  const set = (part: Partial<Filter>): void => {
    const next = { kind, words, ranges: chosen, ...part };
    narrow(next);
    keepFilter(song.id, next);
  };
  useEffect(() => forgetEvents, []);
  const [open, setOpen] = useState(false);
  const list = useRef<HTMLDivElement>(null);
  const close = (): void => {
    setOpen(false);
    list.current?.querySelector<HTMLElement>('[role=listbox]')?.focus();
  };
  const { index, narrowed } = useIndex(song, events, { kind, words, ranges: chosen });
  return (
    <main aria-label="Event list" className="beside flex min-h-0">
      <div ref={list} className="flex min-h-0 min-w-0 flex-1 flex-col px-4 pt-3">
        <Head song={song} tracks={tracks} filter={{ kind, words, ranges: chosen }} set={set} />
        {error ? (
          <ProblemNote problem={problemOf(error)} harm />
        ) : !loaded || !index ? (
          <p className="text-faint">Fetching the events …</p>
        ) : (
          <EventTable
            key={`${kind} ${loaded.song.revision}`}
            {...loaded}
            behind={loaded.song !== song}
            index={index}
            narrowed={narrowed}
            steps={() => setOpen(true)}
          />
        )}
      </div>
      {open && (
        <ChosenMargin song={loaded?.song ?? song} waiting={loaded?.song !== song} close={close} />
      )}
    </main>
  );
}

/** The events that are listed, some moments behind what is typed; and whether those are fewer than all. */
function useIndex(
  song: SongView,
  events: readonly Events[] | undefined,
  { kind, words, ranges: chosen }: Filter,
) {
  const bars = useScope((s) => s.bars);
  const middleC = usePreferences((p) => p.middleC);
  const wanted = useDeferredValue(words);
  const ranges = useDeferredValue(chosen);
  const ticks = useMemo(() => {
    if (!bars) return undefined;
    const map = meterMap(song.timing.meters, song.division);
    return {
      from: barTick(map, bars.from),
      to: bars.to >= song.timing.bars ? Infinity : barTick(map, bars.to + 1),
    };
  }, [bars, song]);
  const index = useMemo(() => {
    if (!events) return undefined;
    const places = ticks ? { ...ranges, ticks } : ranges;
    return indexEvents(events, eventFilter(kind, wanted, song.encoding, middleC, places));
  }, [events, kind, wanted, song.encoding, middleC, ranges, ticks]);
  const narrowed =
    kind !== 'everything' ||
    wanted.trim() !== '' ||
    bars !== undefined ||
    Object.keys(ranges).length > 0;
  return { index, narrowed };
}

/** Of which tracks and bars the events are, and what narrows the list. */
function Head({
  song,
  tracks,
  filter,
  set,
}: {
  song: SongView;
  tracks: readonly TrackView[];
  filter: Filter;
  set: (part: Partial<Filter>) => void;
}) {
  const bars = useScope((s) => s.bars);
  return (
    <div className="mb-2 flex flex-wrap items-center gap-3">
      <h2 className="text-[16px] font-semibold">Event list</h2>
      <span className="text-faint">
        {tracks === song.tracks
          ? 'all tracks'
          : tracks.length === 1
            ? tracks[0]!.name || 'one track'
            : count(tracks.length, 'track')}
        {bars &&
          `, ${bars.from === bars.to ? `bar ${bars.from}` : `bars ${bars.from} to ${bars.to}`}`}
        ; choose others on the sheet
      </span>
      <span className="ml-auto">
        <Choice
          label="Show"
          value={filter.kind}
          options={asSaid(kinds)}
          set={(to) => set({ kind: to, ranges: {} })}
        />
      </span>
      <RangeFields
        kind={filter.kind}
        tracks={tracks}
        ranges={filter.ranges}
        set={(ranges) => set({ ranges })}
      />
      <input
        type="search"
        aria-label="Words in the event"
        placeholder="expression, C4, velocity 64 …"
        className="w-[210px] rounded border border-line bg-sheet px-2 py-0.5 placeholder:text-faint"
        value={filter.words}
        onChange={(e) => set({ words: e.target.value })}
      />
    </div>
  );
}
