import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import { count } from '../../components/text.ts';
import { say } from '../../messages/messages.ts';
import { useTellChosen } from '../../state/chosen.ts';
import { useMarked } from '../../state/marked.ts';
import { eventRowHeight } from './event-rows.tsx';
import { keepEvents, keptEvents, markedIn } from './kept-events.ts';
import { startOf, useKeepPlace } from './list-place.ts';
import { useEventActs, type Listed } from './use-event-acts.ts';
import { useEventKeys } from './use-event-keys.ts';

/** Browsers draw no taller than this; more rows are reached by filtering. */
const tallest = 30_000_000;

/** The list of events: what is drawn of it, what is chosen, where the keys are, and what is done to it. */
export function useEventList(list: Listed, narrowed: boolean, behind: boolean) {
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
  const { editing, inserting, edit, insert } = acts;
  const shown = Math.min(index.count, Math.floor(tallest / eventRowHeight));
  const virtual = useVirtualizer({
    count: shown,
    getScrollElement: () => scroller.current,
    estimateSize: () => eventRowHeight,
    overscan: 10,
    initialOffset: start.top,
  });
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
  return { scroller, virtual, shown, chosen, focus, pick, onKeyDown, acts, cancel, keepSeveral };
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
