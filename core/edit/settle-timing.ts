import { META, eventAt, meta, type EventValue, type Events } from '../smf/events.ts';
import { eventsFrom, pickEvents } from '../smf/event-builder.ts';
import { mergeEvents } from '../smf/merge.ts';
import { meantType } from '../smf/own-events.ts';
import { trackLabel, withEvents, type Song, type Track } from '../song/song.ts';
import type { Change } from './report.ts';

/** Metas that are the whole song's wherever they stand. */
const everywhere: ReadonlySet<number> = new Set([meta.tempo, meta.timeSignature, meta.smpteOffset]);
/** Metas that are the song's where they stand in its first track. */
const inFirstTrack: ReadonlySet<number> = new Set([
  ...everywhere,
  meta.keySignature,
  meta.marker,
  meta.cuePoint,
  meta.copyright,
]);

/**
 * Keeps the tempo map and its like in the first track (SMF 1.0) when tracks are moved or removed: what
 * belongs to the song goes from `before`'s first track, or from a track that `after` no longer has, to the
 * first track of `after`.
 */
export function settleTiming(before: Song, after: Song): { song: Song; changes: Change[] } {
  const first = after.tracks[0]!;
  const kept = new Set(after.tracks.map((t) => t.id));
  const taken: Events[] = [];
  const left = new Map<string, Track>();
  let moved = 0;
  before.tracks.forEach((track, index) => {
    if (track.id === first.id || (index > 0 && kept.has(track.id))) return;
    const { own, rest } = parted(track.events, index === 0 ? inFirstTrack : everywhere);
    if (own.length === 0) return;
    taken.push(eventsFrom(own));
    moved += own.length;
    left.set(track.id, withEvents(track, rest));
  });
  if (taken.length === 0) return { song: after, changes: [] };
  const target = withEvents(first, mergeEvents([...taken, first.events]));
  const tracks = after.tracks.map((t) => (t.id === first.id ? target : (left.get(t.id) ?? t)));
  const song = { ...after, tracks };
  const detail =
    'Tempo, meter and what else belongs to the whole song now stands in this track, the first.';
  return {
    song,
    changes: [
      {
        track: first.id,
        name: trackLabel(song, target),
        did: 'changed',
        counts: { 'song event': moved },
        detail,
      },
    ],
  };
}

/** The events that are the song's own, and the track without them. */
function parted(events: Events, types: ReadonlySet<number>): { own: EventValue[]; rest: Events } {
  const own: EventValue[] = [];
  const rest: number[] = [];
  for (let i = 0; i < events.count; i++) {
    if (events.status[i] === META && types.has(meantType(events, i))) own.push(eventAt(events, i));
    else rest.push(i);
  }
  return { own, rest: own.length === 0 ? events : pickEvents(events, rest) };
}
