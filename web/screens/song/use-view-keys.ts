import { useEffect, useEffectEvent } from 'react';
import { useNavigate } from 'react-router';
import type { KeyCommandId } from '#contracts/key-commands.ts';
import { isTyping } from '../../components/is-typing.ts';
import { commandOf } from '../../keys/pressed.ts';

interface View {
  readonly key: KeyCommandId;
  readonly path: string;
  readonly says: string;
}

/** The views of a song, by name and by key, in the order of the trail. */
export const views: readonly View[] = [
  { key: 'go-in', path: '/in', says: 'Bring in: what was received' },
  { key: 'go-sheet', path: '', says: 'Look over: the track sheet' },
  { key: 'go-notes', path: '/notes', says: 'Notes: the note view' },
  { key: 'go-lanes', path: '/lanes', says: 'Lanes: controllers over time' },
  { key: 'go-events', path: '/events', says: 'Event list' },
  { key: 'go-timing', path: '/timing', says: 'Timing: tempos, meters, markers' },
  { key: 'go-harmony', path: '/harmony', says: 'Harmony: chords, keys and voicings' },
  {
    key: 'go-arrange',
    path: '/arrange',
    says: 'Arrange: the running order, and what to do with bars',
  },
  { key: 'go-shelf', path: '/shelf', says: 'Shelf: clips to take in' },
  { key: 'go-out', path: '/out', says: 'Hand off' },
  { key: 'go-history', path: '/history', says: 'History' },
];

/** Where keys choose by letters and figures of their own. */
const ownLetters = '[role=dialog], [role=menu], [data-radix-popper-content-wrapper]';

/** Each view by one key. */
export function useViewKeys(song: string): void {
  const navigate = useNavigate();
  const onKey = useEffectEvent((e: KeyboardEvent): void => {
    if (e.defaultPrevented || isTyping(e.target)) return;
    if (e.target instanceof Element && e.target.closest(ownLetters)) return;
    const command = commandOf(e, 'song');
    const view = views.find((v) => v.key === command);
    if (!view) return;
    e.preventDefault();
    void navigate(`/songs/${song}${view.path}`);
  });
  useEffect(() => {
    const listener = (e: KeyboardEvent): void => onKey(e);
    addEventListener('keydown', listener);
    return () => removeEventListener('keydown', listener);
  }, []);
}
