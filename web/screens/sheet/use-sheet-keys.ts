import { useEffect, useEffectEvent, useState, type KeyboardEvent, type RefObject } from 'react';
import { useLocation } from 'react-router';
import type { KeyCommandId } from '#contracts/key-commands.ts';
import type { TrackView } from '#contracts/songs.ts';
import { isTyping } from '../../components/is-typing.ts';
import { commandOf } from '../../keys/pressed.ts';
import type { TrackActions } from './use-track-actions.ts';

/**
 * The sheet by keys: arrows go, Space selects, Enter renames, Escape selects nothing; all else as the keys are
 * kept.
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
    const nudge = (by: -1 | 1): void => {
      if (actions.selected.has(track.id)) actions.nudge(by);
      else actions.pick(track.id, { extend: false, add: false });
    };
    const acts: Partial<Record<KeyCommandId, () => void>> = {
      'sheet-up': () => nudge(-1),
      'sheet-down': () => nudge(1),
      'sheet-rename': () => actions.edit(track.id),
      'sheet-instrument': () => actions.choose(track.id),
      'sheet-silent': () => actions.hear('silent', track.id),
      'sheet-alone': () => actions.hear('alone', track.id),
      'sheet-remove': actions.remove,
      'sheet-all': actions.selectAll,
    };
    const command = commandOf(e, 'sheet');
    if (command && acts[command]) acts[command]();
    else if (e.ctrlKey || e.metaKey || e.altKey) return;
    else if (e.key in moves) go(moves[e.key]!, e.shiftKey);
    else if (e.key === ' ') actions.pick(track.id, { extend: e.shiftKey, add: true });
    else if (e.key === 'Enter') actions.edit(track.id);
    else if (e.key === 'Escape') actions.selectNone();
    else return;
    e.preventDefault();
  }

  return { focused, setFocused, onKeyDown };
}
