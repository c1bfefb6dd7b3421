import {
  keyCommandIds,
  keyCommands,
  keysOf,
  type ChangedKeys,
  type KeyCommandId,
  type KeyPlace,
} from '#contracts/key-commands.ts';
import { usePreferences } from '../state/preferences.ts';

type Pressed = Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>;

/** A key with its modifiers as commands name it. */
export function keyText({ key, ctrlKey, metaKey, altKey, shiftKey }: Pressed): string {
  const letter = /^\p{L}$/u.test(key);
  // Of signs Shift is part of which sign it is.
  const shift = shiftKey && (letter || key.length > 1 || key === ' ');
  return [
    ctrlKey || metaKey ? 'Ctrl' : '',
    altKey ? 'Alt' : '',
    shift ? 'Shift' : '',
    letter ? key.toUpperCase() : key,
  ]
    .filter(Boolean)
    .join('+');
}

/** Commands by their keys, for each place; made anew when a key is changed. */
let known:
  { readonly changed: ChangedKeys; readonly of: ReadonlyMap<string, KeyCommandId> } | undefined;

function byKey(changed: ChangedKeys): ReadonlyMap<string, KeyCommandId> {
  if (known?.changed !== changed)
    known = {
      changed,
      of: new Map(
        keyCommandIds.flatMap((id) =>
          keysOf(id, changed).map((key) => [`${keyCommands[id].place} ${key}`, id] as const),
        ),
      ),
    };
  return known.of;
}

/** What a key does in a place as the keys are now; undefined where it does nothing. */
export const commandOf = (e: Pressed, place: KeyPlace): KeyCommandId | undefined =>
  byKey(usePreferences.getState().keys).get(`${place} ${keyText(e)}`);
