import { create } from 'zustand';
import type { Bars } from './scope.ts';

/**
 * What was copied out of a song, for another or the same to take: kept in this browser, so that another
 * window can paste it.
 */
export interface Copied {
  readonly song: string;
  readonly revision: number;
  readonly title: string;
  readonly tracks: readonly string[];
  /** Of these bars alone. */
  readonly bars?: Bars | undefined;
  /** Just these events: by track, spans of rows; how many, and what they are. */
  readonly rows?: Readonly<Record<string, [number, number][]>>;
  readonly says: string;
}

const place = 'copied';

function kept(): Copied | undefined {
  try {
    const said = JSON.parse(localStorage.getItem(place) ?? 'null') as Copied | null;
    return said && typeof said.song === 'string' && typeof said.says === 'string'
      ? said
      : undefined;
  } catch {
    return undefined;
  }
}

export const useCopied = create<{ copied: Copied | undefined }>(() => ({ copied: kept() }));

// Another window may have copied since.
addEventListener('storage', ({ key }) => key === place && useCopied.setState({ copied: kept() }));

export function copy(copied: Copied): void {
  useCopied.setState({ copied });
  try {
    localStorage.setItem(place, JSON.stringify(copied));
  } catch {
    // A browser that keeps nothing, or not as much, pastes in this window only.
  }
}

/** The address of an intake of what was copied, beside a song. */
export function pasteInto(
  song: string,
  { song: from, revision, title, tracks, bars }: Copied,
): string {
  const query = new URLSearchParams({
    from: `song:${from}:${revision}`,
    name: title,
    tracks: tracks.join(','),
    ...(bars ? { bars: `${bars.from}-${bars.to}` } : {}),
  });
  return `/songs/${song}/in?${query.toString()}`;
}
