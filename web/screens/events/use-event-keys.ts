import type { useVirtualizer } from '@tanstack/react-virtual';
import { useState, type KeyboardEvent, type RefObject } from 'react';
import type { KeyCommandId } from '#contracts/key-commands.ts';
import { commandOf } from '../../keys/pressed.ts';
import { isTyping } from '../../components/is-typing.ts';
import { eventRowHeight } from './event-rows.tsx';

interface Asked {
  /** Rows that are listed. */
  readonly shown: number;
  readonly scroller: RefObject<HTMLDivElement | null>;
  readonly virtual: Pick<ReturnType<typeof useVirtualizer>, 'scrollToIndex'>;
  remove(): void;
  edit(row: number): void;
  insert(): void;
  /** Deletes all that are listed. */
  removeShown(): void;
  /** Selects all that are listed. */
  all(): void;
}

/** Which rows are chosen, and which has the focus: by pressing, with Shift or Ctrl for more, or by keys. */
export function useEventKeys(
  { shown, scroller, virtual, remove, edit, insert, removeShown, all }: Asked,
  chosen: ReadonlySet<number>,
  setChosen: (rows: ReadonlySet<number>) => void,
  first: number,
) {
  const [focus, setFocus] = useState(first);
  const [anchor, setAnchor] = useState(first);
  const pick = (n: number, extend: boolean, add: boolean): void => {
    setFocus(n);
    if (extend)
      return setChosen(
        new Set(
          Array.from({ length: Math.abs(n - anchor) + 1 }, (_, i) => Math.min(n, anchor) + i),
        ),
      );
    setAnchor(n);
    const next = new Set(add ? chosen : []);
    if (add && chosen.has(n)) next.delete(n);
    else next.add(n);
    setChosen(next);
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    if (isTyping(e.target)) return;
    const command = commandOf(e, 'events');
    const acts: Partial<Record<KeyCommandId, () => void>> = {
      'events-remove': remove,
      'events-remove-shown': removeShown,
      'events-edit': () => edit(focus),
      'events-insert': insert,
      'events-all': all,
    };
    const page = Math.max(
      1,
      Math.floor((scroller.current?.clientHeight ?? 300) / eventRowHeight) - 1,
    );
    const to = {
      ArrowUp: focus - 1,
      ArrowDown: focus + 1,
      PageUp: focus - page,
      PageDown: focus + page,
      Home: 0,
      End: shown - 1,
    }[e.key];
    if (to !== undefined) {
      const n = Math.min(Math.max(0, to), shown - 1);
      pick(n, e.shiftKey, false);
      virtual.scrollToIndex(n);
    } else if (command && acts[command]) acts[command]();
    else if (e.key === 'Enter') edit(focus);
    else if (e.key === 'Escape') setChosen(new Set());
    else return;
    e.preventDefault();
  };
  return { focus, pick, onKeyDown };
}
