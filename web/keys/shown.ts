import { keysOf, type KeyCommandId } from '#contracts/key-commands.ts';
import { usePreferences } from '../state/preferences.ts';

const signs: Readonly<Record<string, string>> = {
  ArrowUp: '↑',
  ArrowDown: '↓',
  ArrowLeft: '←',
  ArrowRight: '→',
  Escape: 'Esc',
  PageUp: 'Page ↑',
  PageDown: 'Page ↓',
  ' ': 'Space',
};

/** A key as it is read: `Alt ↑`. */
export const shownKey = (key: string): string =>
  key
    .split(/\+(?=.)/)
    .map((part) => signs[part] ?? part)
    .join(' ');

/** The same for titles, which are read anew whenever they are shown. */
export const keyNow = (id: KeyCommandId): string =>
  shownKey(keysOf(id, usePreferences.getState().keys)[0]!);

/** The key of a command as it is now. */
export const useKeyOf = (id: KeyCommandId): string =>
  shownKey(
    keysOf(
      id,
      usePreferences((p) => p.keys),
    )[0]!,
  );
