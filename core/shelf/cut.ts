import { excerptOf } from '../edit/excerpt/excerpt.ts';
import { makeHandoff } from '../handoff/handoff.ts';
import { removeTracks } from '../edit/remove-tracks.ts';
import { ok, type Result } from '../problems/problems.ts';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { barTick, meterMap, positionAt } from '../timing/meter-map.ts';
import { clipFacts, type ClipFacts } from './facts.ts';

/** What of a song becomes a clip. */
export interface Cut {
  readonly tracks: readonly string[];
  /** Both included. */
  readonly bars: { readonly from: number; readonly to: number };
}

/**
 * Some bars of some tracks as a file of their own that begins with what was in force there: the map, programs,
 * controllers, bend, a damper that is down. Notes
 * are whole, however long they ring. The bars are known beside it: it comes round after them.
 */
export function cutClip(
  song: Song,
  { tracks, bars }: Cut,
  name: string,
): Result<{ bytes: Uint8Array; facts: ClipFacts }> {
  const timing = timingOf(song);
  const meters = meterMap(timing.meters, song.division);
  const last = positionAt(meters, Math.max(0, timing.endTick - 1)).bar;
  const unknown = tracks.filter((id) => !song.tracks.some((t) => t.id === id));
  if (unknown.length > 0)
    return { ok: false, problem: { code: 'scope-unknown-track', where: {}, tracks: unknown } };
  if (bars.from > last || bars.to < bars.from)
    return {
      ok: false,
      problem: { code: 'scope-behind-end', where: {}, from: bars.from, bars: last },
    };
  const to = Math.min(bars.to, last);
  const span = { from: barTick(meters, bars.from), to: barTick(meters, to + 1) };
  const taken = new Set(tracks);
  const excerpt = excerptOf(song, span, { speaks: ({ id }) => taken.has(id) }).song;
  const others = excerpt.tracks.filter(({ id }) => !taken.has(id));
  const alone = removeTracks({ ...excerpt, title: name }, new Set(others));
  if (!alone.ok) return alone;
  const clip = alone.value.song;
  const made = makeHandoff(clip, { received: clip, asRead: clip }, { format: 1, chunks: false });
  if (!made.ok) return made;
  return ok({
    bytes: made.value.bytes,
    facts: clipFacts(clip, name, to - bars.from + 1),
  });
}
