import { create } from 'zustand';

/** Tracks that were copied out of a song, for another song to take: kept in this browser, so that another window can paste them. */
export interface Copied {
  readonly song: string;
  readonly revision: number;
  readonly title: string;
  readonly tracks: readonly string[];
}

const place = 'copied';

function kept(): Copied | undefined {
  try {
    const said = JSON.parse(localStorage.getItem(place) ?? 'null') as Copied | null;
    return said && typeof said.song === 'string' && Array.isArray(said.tracks) ? said : undefined;
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
    // A browser that keeps nothing pastes in this window only.
  }
}

/** The address of an intake of what was copied, beside a song. */
export function pasteInto(song: string, { song: from, revision, title, tracks }: Copied): string {
  const query = new URLSearchParams({
    from: `song:${from}:${revision}`,
    name: title,
    tracks: tracks.join(','),
  });
  return `/songs/${song}/in?${query.toString()}`;
}
