import type { KeyCommandId } from '#contracts/key-commands.ts';
import type { Ghost } from '../../drawing/notes.ts';
import { commandOf } from '../../keys/pressed.ts';
import type { Plane } from '../../plane/plane.ts';

export interface KeyActions {
  readonly any: boolean;
  shift(ghost: Ghost, louder: number): void;
  remove(): void;
  all(): void;
  /** What can be done with these. */
  steps(): void;
  none(): void;
  /** What is to fill the view. */
  show(what: 'song' | 'scope' | 'selection'): void;
  /** To the next note or the one before. */
  go(by: 1 | -1): void;
}

/** The plane by keyboard. With notes selected the arrows move them, without they scroll. */
export function noteKeys(
  plane: Plane,
  step: number,
  a: KeyActions,
): (e: React.KeyboardEvent) => void {
  const far = 8;
  return (e) => {
    const x = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
    const y = { ArrowUp: 1, ArrowDown: -1 }[e.key];
    const command = commandOf(e, 'notes');
    const acts: Partial<Record<KeyCommandId, () => void>> = {
      'notes-all': a.all,
      'notes-remove': a.remove,
      'notes-next': () => a.go(1),
      'notes-before': () => a.go(-1),
      'notes-song': () => a.show('song'),
      'notes-scope': () => a.show('scope'),
      'notes-selected': () => a.show('selection'),
      'notes-nearer': () => plane.zoom(1.4, plane.width / far),
      'notes-farther': () => plane.zoom(1 / 1.4, plane.width / far),
    };
    if (command && acts[command]) acts[command]();
    else if (e.ctrlKey || e.metaKey) return;
    else if (x !== undefined && a.any)
      a.shift(
        e.altKey
          ? { ticks: 0, keys: 0, lengthen: x * step }
          : { ticks: x * (e.shiftKey ? 1 : step), keys: 0, lengthen: 0 },
        0,
      );
    else if (y !== undefined && a.any)
      a.shift(
        { ticks: 0, keys: e.altKey ? 0 : y * (e.shiftKey ? 12 : 1), lengthen: 0 },
        e.altKey ? y * 5 : 0,
      );
    else if (x !== undefined) plane.scroll(x * plane.width * 0.1, 0);
    else if (y !== undefined) plane.scroll(0, -y * plane.keyHeight * 3);
    else if (e.key === 'PageDown') plane.scroll(plane.width * 0.9, 0);
    else if (e.key === 'PageUp') plane.scroll(-plane.width * 0.9, 0);
    else if (e.key === 'Home') plane.scroll(-1e12, 0);
    else if (e.key === 'End') plane.scroll(1e12, 0);
    else if (e.key === 'Enter' && a.any) a.steps();
    else if (e.key === 'Escape') a.none();
    else return;
    e.preventDefault();
  };
}
