import type { Song } from '../song/song.ts';
import { isEmpty, setsUpOnly } from '../edit/empty.ts';

/**
 * Tracks that a step left with nothing, or with nothing but what sets up a channel, where they held more
 * before: what is left in each, in words, by the track's id. The look-over finds such tracks, so the report
 * names them. The first track may hold nothing: it carries the map.
 */
export function whatIsLeft(before: Song, after: Song): Map<string, string> {
  const words = new Map<string, string>();
  const old = new Map(before.tracks.map((t) => [t.id, t]));
  for (const track of after.tracks.slice(1)) {
    const had = old.get(track.id);
    // The same object is the same track; nobody need look at its events.
    if (!had || had === track || had.events === track.events) continue;
    const { id, events } = track;
    if (isEmpty(events) && !isEmpty(had.events)) words.set(id, 'nothing else is in this track');
    else if (setsUpOnly(events) && !setsUpOnly(had.events))
      words.set(id, 'what is left in this track plays nothing, it only sets up');
  }
  return words;
}
