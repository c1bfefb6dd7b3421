import { create } from 'zustand';
import type { ClipView } from '#contracts/shelf.ts';
import type { ClipsAsked } from '../api/shelf.ts';

/** A clip of a folder of the machine, which is not on the shelf. */
export interface ClipHere extends ClipView {
  readonly file: File;
}

/** How the shelf is looked through: kept as long as the page is open. */
interface ShelfState {
  readonly asked: ClipsAsked;
  /** How fast clips are heard: as they are written, or as the song that is open. */
  readonly tempo: 'its own' | "the song's";
  /** A program in the place of a clip's own, from 0, for drums and for all else; undefined for its own. */
  readonly kit: number | undefined;
  readonly sound: number | undefined;
  /** Clips that are heard otherwise than their kind says. */
  readonly turned: ReadonlySet<string>;
  /** A folder of the machine that is looked through, and whether it is now. */
  readonly here: { readonly name: string; readonly clips: readonly ClipHere[] } | undefined;
  readonly looking: boolean;
  /** Takes files that are dropped or pasted while the shelf is seen; undefined elsewhere. */
  readonly taking: ((files: readonly File[]) => void) | undefined;
  /** Puts the clip that is being dragged into the song at a bar; undefined while none is. */
  readonly drop: ((bar: number) => void) | undefined;
  ask(change: ClipsAsked): void;
}

export const useShelf = create<ShelfState>((set) => ({
  asked: { search: '', sort: 'folder', descending: 'false' },
  tempo: 'its own',
  kit: undefined,
  sound: undefined,
  turned: new Set(),
  here: undefined,
  looking: false,
  taking: undefined,
  drop: undefined,
  ask: (change) => set(({ asked }) => ({ asked: { ...asked, ...change } })),
}));

/** Which clip is heard. */
export const useClipHeard = create<{ readonly clip: string | undefined }>(() => ({
  clip: undefined,
}));

const place = 'shelf-folders';

/** The folder into which something that plays this was put the last time. */
export function lastFolder(plays: string): string {
  try {
    return (JSON.parse(localStorage.getItem(place) ?? '{}') as Record<string, string>)[plays] ?? '';
  } catch {
    return '';
  }
}

export function rememberFolder(plays: string, folder: string): void {
  try {
    const before = JSON.parse(localStorage.getItem(place) ?? '{}') as Record<string, string>;
    localStorage.setItem(place, JSON.stringify({ ...before, [plays]: folder }));
  } catch {
    // A browser that keeps nothing proposes none.
  }
}
