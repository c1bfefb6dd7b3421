import type { Kind, Ranges } from './filter.ts';

/** What the list of a song is narrowed to. */
export interface Filter {
  readonly kind: Kind;
  readonly words: string;
  readonly ranges: Ranges;
}
export const everything: Filter = { kind: 'everything', words: '', ranges: {} };

const place = 'event-filters';
/** Of more songs none is kept. */
const mostSongs = 200;

function all(): Record<string, Filter> {
  try {
    return JSON.parse(localStorage.getItem(place) ?? '{}') as Record<string, Filter>;
  } catch {
    return {};
  }
}

/** As the song's list was narrowed the last time in this browser. */
export const keptFilter = (song: string): Filter => ({ ...everything, ...all()[song] });

export function keepFilter(song: string, filter: Filter): void {
  const { [song]: _, ...others } = all();
  const latest = Object.entries({ ...others, [song]: filter }).slice(-mostSongs);
  try {
    localStorage.setItem(place, JSON.stringify(Object.fromEntries(latest)));
  } catch {
    // A browser that keeps nothing lists everything.
  }
}
