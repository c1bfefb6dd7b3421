import { aboutTrack } from '../../../edit/about-track.ts';
import { protectOwnNotes } from '../../../edit/protect-own-notes.ts';
import { countKinds, lost } from '../../../edit/event-kinds.ts';
import { placeFrom } from '../../../edit/part-notes.ts';
import { sortedByTick } from '../../../edit/retime.ts';
import { counted } from '../../../edit/rewrite.ts';
import { pickEvents } from '../../../smf/event-builder.ts';
import { META, meta, type Events } from '../../../smf/events.ts';
import { mergeEvents } from '../../../smf/merge.ts';
import { meantType } from '../../../smf/own-events.ts';
import { laneAt, laneKey, parkedRows } from '../../../song/lanes.ts';
import { notesOf } from '../../../song/notes.ts';
import { withEvents, type Song, type Track } from '../../../song/song.ts';
import type { TickSpan } from '../../../song/scope.ts';
import type { Onto } from './settings.ts';

/** A track with a part laid onto it, and in words what that took; or why nothing was. */
export type LaidOnto =
  | { readonly track: Track; readonly counts: Record<string, number>; readonly said: string[] }
  | { readonly left: string };

/**
 * Lays a part, its ticks and channels those of the song, onto a track that is there, over a span that
 * begins at the place. The song's own notes sound as before.
 */
export function laidOnto(
  song: Song,
  there: Track,
  part: Track,
  how: Onto['how'],
  span: TickSpan,
): LaidOnto {
  if (how === 'where empty' && soundsIn(there.events, span)) return { left: 'Notes sound there.' };
  const said: string[] = [];
  const brought = withoutClashing(part, there, said);
  const clear = (its: Events, words: string[]): Events =>
    how === 'replace' ? withoutKindsOf(there.events, its, span, words) : there.events;
  const standing = withCleared(song, there, clear(brought, []));
  const until = how === 'replace' ? span.to - 1 : 0;
  const [beside] = protectOwnNotes(song, [withEvents(part, brought)], { there, standing, until });
  const { events: own } = beside!.part;
  // What stayed out takes the place of nothing.
  const cleared = clear(own, said);
  said.push(...beside!.said);
  const { events, played } = together(cleared, own, said);
  const counts = countKinds(played);
  if (Object.keys(counts).length === 0)
    return { left: said.join('; ') || 'It holds nothing to lay there.' };
  return { track: withEvents(there, events), counts, said };
}

const withCleared = (song: Song, there: Track, cleared: Events): Song =>
  cleared === there.events
    ? song
    : {
        ...song,
        tracks: song.tracks.map((t) => (t === there ? withEvents(there, cleared) : t)),
      };

const soundsIn = (events: Events, { from, to }: TickSpan): boolean => {
  const { on, off, count } = notesOf(events);
  for (let n = 0; n < count; n++) {
    const ends = off[n] === -1 ? Infinity : events.atTick[off[n]!]!;
    if (events.atTick[on[n]!]! < to && ends > from) return true;
  }
  return false;
};

const picked = (events: Events, keep: (row: number) => boolean): Events => {
  const rows: number[] = [];
  for (let i = 0; i < events.count; i++) if (keep(i)) rows.push(i);
  return rows.length === events.count ? events : pickEvents(events, rows);
};

const laneOf = (events: Events, i: number): string | undefined =>
  events.status[i]! < 0xf0
    ? ((lane) => lane && laneKey(lane.channel, lane.what))(laneAt(events, i))
    : undefined;

/**
 * What of a part can be laid onto a track: not what is about the part as a whole, no lane that either of
 * the two has parked, and no program where the track has its own: it goes on playing what it plays. Its end
 * is its last event, so that no rest behind it makes the track longer.
 */
function withoutClashing(part: Track, there: Track, said: string[]): Events {
  const isParked = parkedRows(part);
  const parkedThere = new Set(there.parked ?? []);
  const keepsPrograms = there.events.status.some((status) => status >> 4 === 0xc);
  let [left, programs] = [0, 0];
  const events = picked(part.events, (i) => {
    if (part.events.status[i] === META) return !aboutTrack.has(meantType(part.events, i));
    const lane = laneOf(part.events, i);
    if (keepsPrograms && choosesSound(part.events, i)) {
      programs++;
      return false;
    }
    const stays = isParked(i) || (lane !== undefined && parkedThere.has(lane));
    if (stays) left++;
    return !stays;
  });
  if (programs > 0)
    said.push(`${counted(programs, 'program or bank message')} left: it keeps its own`);
  if (left > 0) said.push(`${counted(left, 'event')} of parked lanes left`);
  return endingWithLast(events);
}

/** Programs, and the banks that go before them. */
const choosesSound = ({ status, data1 }: Events, i: number): boolean =>
  status[i]! >> 4 === 0xc || (status[i]! >> 4 === 0xb && (data1[i] === 0 || data1[i] === 32));

/** The events with their end where the last of them is. */
function endingWithLast(events: Events): Events {
  const last = events.count - 1;
  const ends = last > 0 ? events.atTick[last - 1]! : 0;
  if (events.atTick[last] === ends) return events;
  const atTick = events.atTick.slice();
  atTick[last] = ends;
  return { ...events, atTick };
}

/**
 * The track's events without what a part brings of its kinds, over a span: notes that begin there, values
 * of its lanes, its texts.
 */
function withoutKindsOf(
  events: Events,
  part: Events,
  { from, to }: TickSpan,
  said: string[],
): Events {
  const kinds = new Set<string>();
  for (let i = 0; i < part.count; i++) kinds.add(kindAt(part, i));
  const notes = notesOf(events);
  const gone = new Set<number>();
  if (kinds.has('note'))
    for (let n = 0; n < notes.count; n++) {
      const [on, off] = [notes.on[n]!, notes.off[n]!];
      if (events.atTick[on]! < from || events.atTick[on]! >= to) continue;
      gone.add(on);
      if (off !== -1) gone.add(off);
    }
  const rest = picked(events, (i) => {
    const kind = kindAt(events, i);
    const inSpan = events.atTick[i]! >= from && events.atTick[i]! < to;
    return kind === 'note' ? !gone.has(i) : !(inSpan && kind !== 'end' && kinds.has(kind));
  });
  const counts = Object.entries(lost(events, rest)).map(([kind, n]) => counted(n, kind));
  if (counts.length > 0) said.push(`in place of ${counts.join(', ')}`);
  return rest;
}

/** What takes the place of what: notes, each lane for itself, each kind of text. */
function kindAt(events: Events, i: number): string {
  const status = events.status[i]!;
  if (status === META)
    return events.data1[i] === meta.endOfTrack ? 'end' : `meta ${meantType(events, i)}`;
  const kind = status >> 4;
  if (kind === 8 || kind === 9) return 'note';
  return laneOf(events, i) ?? `status ${status}`;
}

/**
 * Both as one, so that no note of a key cuts another off: what sounds ends where the next of its key
 * begins, be it of the one or the other; a note of the part that would begin with one that is there already
 * stays away.
 */
function together(there: Events, part: Events, said: string[]): { events: Events; played: Events } {
  const standing = notesByKey(there);
  const [endsThere, ends] = [there.atTick.slice(), part.atTick.slice()];
  const away = new Set<number>();
  /** Ends that fall on the beginning of a note that is there, and have to go before it. */
  const early = new Set<number>();
  let [cut, stayed] = [0, 0];
  for (const [key, notes] of notesByKey(part)) {
    const others = standing.get(key) ?? [];
    for (const { on, off, from } of notes) {
      const at = placeFrom(others, from);
      const [before, next] = [others[at - 1], others[at]];
      if (next?.from === from) {
        away.add(on).add(off);
        stayed++;
        continue;
      }
      if (before && before.off !== -1 && endsThere[before.off]! > from) {
        endsThere[before.off] = from;
        cut++;
      }
      if (next && off !== -1 && ends[off]! >= next.from) {
        if (ends[off]! > next.from) cut++;
        ends[off] = next.from;
        early.add(off);
      }
    }
  }
  if (cut > 0) said.push(`${counted(cut, 'note')} cut short where the next of the key begins`);
  if (stayed > 0) said.push(`${counted(stayed, 'note')} left, where one of the key begins already`);
  const last = part.count - 1;
  const endings = [...early].sort((a, b) => a - b).concat(last);
  const played = picked(part, (i) => !away.has(i));
  return {
    played,
    events: mergeEvents([
      at(
        pickEvents(part, endings),
        Float64Array.from(endings, (i) => ends[i]!),
      ),
      at(there, endsThere),
      picked(part, (i) => !away.has(i) && !early.has(i)),
    ]),
  };
}

const at = (events: Events, ticks: Float64Array): Events =>
  sortedByTick(events, ticks, new Int8Array(events.count));

interface KeyNote {
  readonly on: number;
  readonly off: number;
  readonly from: number;
}

/** Notes of each channel and key, as they begin. */
function notesByKey(events: Events): Map<number, KeyNote[]> {
  const notes = notesOf(events);
  const byKey = new Map<number, KeyNote[]>();
  for (let n = 0; n < notes.count; n++) {
    const [on, off] = [notes.on[n]!, notes.off[n]!];
    const key = ((events.status[on]! & 15) << 7) | events.data1[on]!;
    const list = byKey.get(key);
    const note = { on, off, from: events.atTick[on]! };
    if (list) list.push(note);
    else byKey.set(key, [note]);
  }
  return byKey;
}
