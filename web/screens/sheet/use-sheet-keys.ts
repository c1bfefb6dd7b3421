import { useEffect, useEffectEvent, useState, type KeyboardEvent, type RefObject } from 'react';
import { useLocation } from 'react-router';
import type { TrackView } from '#contracts/songs.ts';
import { isTyping } from '../../components/is-typing.ts';
import type { TrackActions } from './use-track-actions.ts';

const hears: Readonly<Record<string, 'silent' | 'alone'>> = { m: 'silent', o: 'alone' };

/**
 * The sheet by keys: arrows go, Space selects, Enter or F2 renames, I chooses what plays it, M silences it
 * and O has it heard alone, Alt with arrows moves, Delete removes.
 */
export function useSheetKeys(
  tracks: readonly TrackView[],
  actions: TrackActions,
  scroller: RefObject<HTMLElement | null>,
  reveal: (index: number) => void,
) {
  // A track that the view was opened for.
  const arrived = (useLocation().state as { readonly focus?: string } | null)?.focus;
  const [focused, setFocused] = useState(() =>
    Math.max(
      0,
      tracks.findIndex((t) => t.id === arrived),
    ),
  );
  const arrive = useEffectEvent(() => {
    if (tracks[focused]?.id === arrived) show(focused);
  });
  useEffect(() => arrive(), [arrived]);

  /** Scrolls to a row and gives it the focus: at once where it is drawn, so that the next key is that row's. */
  function show(index: number): void {
    const rowOf = (): HTMLElement | null | undefined =>
      scroller.current?.querySelector<HTMLElement>(`[data-track="${tracks[index]!.id}"]`);
    reveal(index);
    const drawn = rowOf();
    if (drawn) return drawn.focus();
    const had = document.activeElement;
    requestAnimationFrame(() => {
      // A dialog that was opened meanwhile keeps what it took, also where the row that had it is no longer drawn.
      if ([had, document.body].includes(document.activeElement)) rowOf()?.focus();
    });
  }

  function go(index: number, extend: boolean): void {
    const to = Math.min(Math.max(index, 0), tracks.length - 1);
    const track = tracks[to];
    if (!track) return;
    setFocused(to);
    if (extend) actions.pick(track.id, { extend: true, add: false });
    show(to);
  }

  function onKeyDown(e: KeyboardEvent): void {
    const row = isTyping(e.target)
      ? null
      : (e.target as HTMLElement).closest<HTMLElement>('tr[data-track]');
    const at = tracks.findIndex((t) => t.id === row?.dataset.track);
    const track = tracks[at];
    if (!track) return;
    const moves: Record<string, number> = {
      ArrowUp: at - 1,
      ArrowDown: at + 1,
      PageUp: at - 10,
      PageDown: at + 10,
      Home: 0,
      End: tracks.length - 1,
    };
    const onlyIfNone = (): void => {
      if (!actions.selected.has(track.id)) actions.pick(track.id, { extend: false, add: false });
    };
    if (e.altKey && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) {
      if (actions.selected.has(track.id)) actions.nudge(e.key === 'ArrowUp' ? -1 : 1);
      else onlyIfNone();
    } else if (e.key in moves) go(moves[e.key]!, e.shiftKey);
    else if (e.key === ' ') actions.pick(track.id, { extend: e.shiftKey, add: true });
    else if (e.key === 'Enter' || e.key === 'F2') actions.edit(track.id);
    else if (e.key.toLowerCase() === 'i' && !e.ctrlKey && !e.metaKey) actions.choose(track.id);
    else if (e.key.toLowerCase() in hears && !e.ctrlKey && !e.metaKey)
      actions.hear(hears[e.key.toLowerCase()]!, track.id);
    else if (e.key === 'Delete') actions.remove();
    else if (e.key === 'Escape') actions.selectNone();
    else if (e.key.toLowerCase() === 'a' && (e.ctrlKey || e.metaKey)) actions.selectAll();
    else return;
    e.preventDefault();
  }

  return { focused, setFocused, onKeyDown };
}
