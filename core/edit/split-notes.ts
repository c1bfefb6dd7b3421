import { ok, type Result } from '../problems/problems.ts';
import { pickEvents } from '../smf/event-builder.ts';
import type { Events } from '../smf/events.ts';
import { notesOf, type Notes } from '../song/notes.ts';
import { namesDevice } from '../song/ports.ts';
import { tracksIn, type Scope } from '../song/scope.ts';
import { trackId, trackLabel, withEvents, type Song, type Track } from '../song/song.ts';
import { withTrackName } from '../song/track-name.ts';
import type { Applied, Change, Report } from './report.ts';
import { withTracks } from './track-list.ts';

/** Which part each note of a track goes to, and what the parts are called. */
export interface Sorting {
  /** By note, an index into `names`. */
  readonly partOf: ArrayLike<number>;
  readonly names: readonly string[];
}

/**
 * Gives the notes of each part a track of their own. The first part that has notes stays in the track, with
 * everything that is no note; `along` says whether programs, controllers, bend and channel pressure go
 * along to the others, so that they sound the same. All play the device that the track played.
 */
export function splitNotes(
  song: Song,
  scope: Scope,
  along: boolean,
  sort: (events: Events, notes: Notes) => Sorting | string,
): Result<Applied> {
  const inScope = tracksIn(song, scope);
  if (!inScope.ok) return inScope;
  const wanted = new Set(inScope.value);
  const changes: Change[] = [];
  const skipped: Report['skipped'][number][] = [];
  let nextTrack = song.nextTrack;
  const tracks = song.tracks.flatMap((track): Track[] => {
    if (!wanted.has(track)) return [track];
    const name = trackLabel(song, track);
    const notes = notesOf(track.events);
    const sorting = notes.count === 0 ? 'It has no notes.' : sort(track.events, notes);
    const used =
      typeof sorting === 'string'
        ? []
        : [...new Set(Array.from(sorting.partOf))].sort((a, b) => a - b);
    if (typeof sorting === 'string' || used.length < 2) {
      skipped.push({
        track: track.id,
        name,
        why: typeof sorting === 'string' ? sorting : 'All its notes belong together.',
      });
      return [track];
    }
    return used.map((part, n) => {
      const { events, count } = partEvents(
        track.events,
        notes,
        sorting.partOf,
        part,
        n === 0,
        along,
      );
      const called = `${name} ${sorting.names[part]!}`;
      const own =
        n === 0
          ? withEvents(track, events)
          : withEvents({ ...track, id: trackId(nextTrack++) }, events);
      changes.push({
        track: own.id,
        name: called,
        did: n === 0 ? 'changed' : 'added',
        counts: { note: count },
        detail: n === 0 ? 'what is left in the track' : `taken out of ${name}`,
      });
      return withTrackName(own, called, song.encoding);
    });
  });
  if (changes.length === 0) return ok({ song, report: { changes, skipped } });
  return ok({ song: withTracks(song, tracks, nextTrack), report: { changes, skipped } });
}

/** The rows of one part, the end of track with them. */
function partEvents(
  events: Events,
  notes: Notes,
  partOf: ArrayLike<number>,
  part: number,
  first: boolean,
  along: boolean,
): { events: Events; count: number } {
  // 0: no note's; n + 1: note n's.
  const owner = new Uint32Array(events.count);
  for (let n = 0; n < notes.count; n++) {
    owner[notes.on[n]!] = n + 1;
    if (notes.off[n] !== -1) owner[notes.off[n]!] = n + 1;
  }
  const rows: number[] = [];
  let count = 0;
  for (let i = 0; i < events.count; i++) {
    const n = owner[i]!;
    const status = events.status[i]!;
    const goes =
      n > 0
        ? partOf[n - 1] === part
        : first ||
          i === events.count - 1 ||
          namesDevice(events, i) ||
          (along && status >= 0xb0 && status < 0xf0);
    if (!goes) continue;
    rows.push(i);
    if (n > 0 && notes.on[n - 1] === i) count++;
  }
  return { events: pickEvents(events, rows), count };
}
