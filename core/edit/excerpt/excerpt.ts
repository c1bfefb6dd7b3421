import { eventsFrom, pickEvents } from '../../smf/event-builder.ts';
import { endTick, META, meta, type Events, type EventValue } from '../../smf/events.ts';
import { mergeEvents } from '../../smf/merge.ts';
import { meantType } from '../../smf/own-events.ts';
import { laneAt, laneKey } from '../../song/lanes.ts';
import { notesOf } from '../../song/notes.ts';
import type { TickSpan } from '../../song/scope.ts';
import { withEvents, withParked, type Song, type Track } from '../../song/song.ts';
import { markText, timingOf } from '../../song/timing-of.ts';
import { setsUp } from '../sets-up.ts';
import { settling } from '../left-hanging.ts';
import { markRows, type NamedRows } from '../named-rows.ts';
import { edged, struckAgain, type Ends } from './edges.ts';
import { exclusivesBefore } from './exclusive.ts';
import { inForceAt, isAtRest } from './in-force.ts';
import { isTimecode, mapInForce } from './map-in-force.ts';

export interface Excerpt {
  /** Its tick 0 is the first of the span; its tracks keep their ids, and what sets them up. */
  readonly song: Song;
  /** Notes that sound as the span begins, and are left. */
  readonly cutOff: number;
  /** Events that say what was in force as it begins. */
  readonly stated: number;
  /** Ids of tracks of which nothing that is heard or read is in the span. */
  readonly idle: ReadonlySet<string>;
}

interface Which {
  /** Just these events and the ends of named notes, with nothing said anew. */
  readonly rows?: NamedRows | undefined;
  /** Whether a track can say what is in force; all can where it is left out. */
  readonly speaks?: (track: Track) => boolean;
  /** What becomes of notes that ring over the end; left out, they ring, and those that hang go on hanging. */
  readonly ends?: Ends;
  /**
   * It begins on an instrument as it is when it is switched on: what is at rest need not be said, but
   * system exclusive messages that were sent.
   */
  readonly fresh?: boolean;
  /** What would be left hanging at its end is brought back, if nothing else is said. */
  readonly settles?: boolean;
}

/**
 * Some bars of a song as a song of their own, for taking or sending: the notes that begin in them, whole,
 * however long they ring; what is in force as they begin, said anew; the sections that lie within. What
 * would be left hanging at their end is brought back. `span.to` may be infinite. Costs what the tracks
 * hold.
 */
export function excerptOf(
  song: Song,
  span: TickSpan,
  { rows, speaks = () => true, ends: over, fresh = false, settles = true }: Which = {},
): Excerpt {
  const wanted = rows ? song.tracks.filter(({ id }) => rows[id]) : song.tracks;
  const sections = rows ? undefined : sectionsWithin(song, span);
  const parts = wanted.map((track) => ({
    track,
    ...rowsIn(track, span, {
      named: rows && markRows(track.events, rows[track.id]!),
      section: sections ? (row) => sections(track, row) : undefined,
    }),
  }));
  const idsOf = (some: typeof parts): Set<string> => new Set(some.map((p) => p.track.id));
  const blank = idsOf(parts.filter((p) => !p.says));
  const said = rows
    ? undefined
    : inForceAt(song.tracks, span.from, [(t) => speaks(t) && !blank.has(t.id), speaks]);
  let statedEvents = 0;
  const exclusives = fresh ? exclusivesBefore(song.tracks, span.from) : undefined;
  const tracks = parts.map(({ track, kept }, n): Track => {
    const { events } = track;
    const ends = rows ? 0 : Math.min(span.to, endTick(events)) - span.from;
    const ringing = shifted(pickEvents(events, kept), span.from, ends);
    const own = over === undefined ? ringing : edged(ringing, span.to - span.from, over);
    const again = over === 'again' ? struckAgain(events, span) : undefined;
    const inForce = said?.get(track.id) ?? [];
    const before = [
      ...(n === 0 && !rows ? mapInForce(song, span.from) : []),
      ...(exclusives?.get(track.id) ?? []),
      ...(fresh ? inForce.filter((e) => !isAtRest(e)) : inForce),
    ];
    statedEvents += before.length;
    const stated = [...before, ...(again?.ons ?? [])];
    const whole = stated.length === 0 ? own : behindSetUp(own, stated);
    const begun = withEvents(track, again ? mergeEvents([eventsFrom(again.offs), whole]) : whole);
    const part = withParked(begun, (begun.parked ?? []).filter(hasLane(begun.events)));
    // A pedal that goes up behind the last bar is down at its end.
    const settled = rows || !settles || span.to === Infinity ? [] : settling(part);
    if (settled.length === 0) return part;
    return withEvents(part, mergeEvents([part.events, eventsFrom(settled)]));
  });
  const cutOff = rows ? 0 : parts.reduce((sum, { left }) => sum + left, 0);
  return {
    song: { ...song, tracks },
    cutOff,
    stated: statedEvents,
    idle: idsOf(parts.filter((p) => !p.plays)),
  };
}

interface InTrack {
  readonly named: Uint8Array | undefined;
  /** Of a section's mark whether the section lies within; undefined of what is none. */
  readonly section: ((row: number) => boolean | undefined) | undefined;
}

/**
 * The rows of a track that are in a part of it, its end of track last; whether it says anything, and
 * anything that is heard or read; and how many notes sound into it from before.
 */
function rowsIn(
  track: Track,
  { from, to }: TickSpan,
  { named, section }: InTrack,
): { kept: number[]; says: boolean; plays: boolean; left: number } {
  const { atTick, status, data1, count } = track.events;
  const isIn = (row: number): boolean =>
    named ? named[row] === 1 : atTick[row]! >= from && atTick[row]! < to;
  /** Of rows of notes that have a beginning: 1 where the note is in, else −1. */
  const ofNote = new Int8Array(count);
  const notes = notesOf(track.events);
  let left = 0;
  for (let n = 0; n < notes.count; n++) {
    const [on, off] = [notes.on[n]!, notes.off[n]!];
    const taken = isIn(on);
    ofNote[on] = taken ? 1 : -1;
    if (off !== -1) ofNote[off] = ofNote[on];
    if (!taken && atTick[on]! < from && off !== -1 && atTick[off]! > from) left++;
  }
  const isKept = (row: number): boolean => {
    if (ofNote[row] !== 0) return ofNote[row] === 1;
    if (status[row] !== META) return isIn(row);
    if (setsUp.has(data1[row]!)) return atTick[row]! < to;
    if (!named && isTimecode(track, row)) return false;
    return section?.(row) ?? isIn(row);
  };
  // Of a part that has notes, controllers without any of them are nothing.
  const isHeard = (row: number): boolean =>
    notes.count === 0 || status[row]! >= 0xf0 || status[row]! >> 4 === 9;
  const kept: number[] = [];
  let [says, plays] = [false, false];
  for (let row = 0; row < count - 1; row++) {
    if (!isKept(row)) continue;
    kept.push(row);
    if (isSetUp(track.events, row)) continue;
    says = true;
    plays ||= isHeard(row);
  }
  kept.push(count - 1);
  return { kept, says, plays, left };
}

/**
 * The events so much earlier, none before the beginning; their end where the last of them is, or at `ends`
 * where that is later.
 */
function shifted(events: Events, by: number, ends: number): Events {
  const last = events.count - 1;
  const atTick = events.atTick.map((tick) => Math.max(0, tick - by));
  // Ends of notes may ring on past the end, and rows are in order but for those that were moved to the
  // beginning, which stand first.
  atTick[last] = Math.max(ends, last > 0 ? atTick[last - 1]! : 0);
  return { ...events, atTick };
}

/** What is stated on the first tick, behind what sets the track up there and before what plays. */
function behindSetUp(events: Events, stated: readonly EventValue[]): Events {
  let first = 0;
  while (first < events.count - 1 && events.atTick[first] === 0 && isSetUp(events, first)) first++;
  const rows = Array.from({ length: events.count }, (_, i) => i);
  const end = events.count - 1;
  return mergeEvents([
    pickEvents(events, [...rows.slice(0, first), end]),
    eventsFrom(stated),
    pickEvents(events, rows.slice(first)),
  ]);
}

const isSetUp = ({ status, data1 }: Events, i: number): boolean =>
  status[i] === META && setsUp.has(data1[i]!);

/** Of the marks of sections whether their section lies within a span, to its very end; undefined of other events. */
function sectionsWithin(
  song: Song,
  { from, to }: TickSpan,
): ((track: Track, row: number) => boolean | undefined) | undefined {
  const { sections } = timingOf(song);
  if (sections.length === 0) return undefined;
  const key = (track: string, tick: number, text: string): string => `${track} ${tick} ${text}`;
  const within = new Map(
    sections.flatMap(({ fromTick, toTick, marks }) =>
      marks.map((m) => [key(m.track, m.atTick, m.text), fromTick >= from && toTick <= to]),
    ),
  );
  return ({ id, events }, row) =>
    meantType(events, row) === meta.marker
      ? within.get(key(id, events.atTick[row]!, markText(events, row, song.encoding)))
      : undefined;
}

/** Whether a lane has any events. */
export function hasLane(events: Events): (key: string) => boolean {
  const keys = new Set<string>();
  for (let i = 0; i < events.count; i++) {
    const lane = events.status[i]! < 0xf0 ? laneAt(events, i) : undefined;
    if (lane) keys.add(laneKey(lane.channel, lane.what));
  }
  return (key) => keys.has(key);
}
