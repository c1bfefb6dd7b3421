import { excerptOf } from '../../edit/excerpt/excerpt.ts';
import { settling } from '../../edit/left-hanging.ts';
import { eventsFrom } from '../../smf/event-builder.ts';
import { endTick, type Events } from '../../smf/events.ts';
import { mergeEvents } from '../../smf/merge.ts';
import { notesOf } from '../../song/notes.ts';
import type { TickSpan } from '../../song/scope.ts';
import { withEvents, type Song } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import { barTick, barsUntil, meterMap } from '../../timing/meter-map.ts';
import type { Wanted } from '../settings.ts';
import { gathered, type Leaves } from './along.ts';
import { repeated } from './repeat.ts';

/** What one file holds of a song. */
export interface Part {
  /** Ids; all where it is left out. */
  readonly tracks?: ReadonlySet<string>;
  /** Left out, the song as it is from its beginning to its end. */
  readonly span?: TickSpan;
  /** Every track ends at least here, in ticks from the beginning of the file. */
  readonly length?: number;
}

const ends = { cut: 'cut', keep: 'ring', again: 'again' } as const;

/**
 * A part of a song as a song of its own, which sounds from its first tick as it does there. A song from its
 * beginning to its end is the song.
 */
export function pieceOf(
  song: Song,
  part: Part,
  { edges, repeat, form }: Pick<Wanted, 'edges' | 'repeat' | 'form'>,
  leaves: Leaves,
): { song: Song; notes: string[] } {
  const from = part.tracks ? gathered(song, part.tracks, leaves) : { song, notes: [] };
  const span = spanFrom(from.song, part, form.start);
  const notes = [...from.notes];
  let piece = from.song;
  if (span) {
    const excerpt = excerptOf(piece, span, {
      ends: ends[edges.notes],
      fresh: true,
      settles: false,
    });
    piece = excerpt.song;
    if (edges.notes === 'again') notes.push(...againWords(from.song, span));
    else if (excerpt.cutOff > 0) notes.push(cutOffWords(excerpt.cutOff));
    if (edges.notes !== 'keep') notes.push(...cutWords(from.song, span, edges.notes));
    if (span.from > 0 && excerpt.stated > 0)
      notes.push('What was in force before its first bar is said on its first tick.');
    if (span.to < Infinity && hangsIn(from.song, span))
      notes.push('Notes that have no end in the song end with it.');
    if (span.from > 0 && form.start === 'with its first note')
      notes.push('It begins with its first note, and bar lines moved with that.');
  }
  const length = span && span.to < Infinity ? span.to - span.from : undefined;
  if (length !== undefined && repeat > 1) {
    piece = repeated(piece, length, repeat);
    notes.push(`Its bars follow each other ${repeat.toLocaleString('en')} times.`);
  }
  // Where it begins with its first note, it is so much shorter.
  const later = (span?.from ?? 0) - (part.span?.from ?? 0);
  const least = Math.max((part.length ?? 0) - later, (length ?? 0) * repeat);
  const whole = ended(piece, span ? latestEnd(piece, least) : least, form.end);
  if (length === undefined) return { song: whole, notes };
  const still = settled(whole);
  if (still !== whole)
    notes.push('Pedals that were down at its end, and bends off their centre, go back there.');
  return { song: still, notes };
}

/** Where a part begins and ends; with its first note, where that is asked for. */
function spanFrom(
  song: Song,
  { span }: Part,
  start: Wanted['form']['start'],
): TickSpan | undefined {
  if (start === 'in its place') return span;
  const within = span ?? { from: 0, to: Infinity };
  const first = song.tracks.reduce(
    (least, t) => Math.min(least, firstNote(t.events, within)),
    Infinity,
  );
  return first === Infinity || first === 0 ? span : { ...within, from: first };
}

/** Tick of the first note that begins in a span; infinite where none does. */
export function firstNote(
  { status, data2, atTick, count }: Events,
  { from, to }: TickSpan,
): number {
  for (let i = 0; i < count && atTick[i]! < to; i++)
    if (status[i]! >> 4 === 9 && data2[i] !== 0 && atTick[i]! >= from) return atTick[i]!;
  return Infinity;
}

/** What is left hanging is brought back at the end; the same song where nothing is. */
function settled(song: Song): Song {
  let left = false;
  const tracks = song.tracks.map((track) => {
    const back = settling(track);
    left ||= back.length > 0;
    return back.length === 0
      ? track
      : withEvents(track, mergeEvents([track.events, eventsFrom(back)]));
  });
  return left ? { ...song, tracks } : song;
}

const latestEnd = (song: Song, least: number): number =>
  song.tracks.reduce((most, t) => Math.max(most, endTick(t.events)), least);

/** Every track ends at least at a tick, and with the bar where that is asked for. */
function ended(song: Song, least: number, end: Wanted['form']['end']): Song {
  const latest = latestEnd(song, least);
  const meters = meterMap(timingOf(song).meters, song.division);
  const to = end === 'at the bar' ? barTick(meters, barsUntil(meters, latest) + 1) : least;
  if (song.tracks.every((t) => endTick(t.events) >= to)) return song;
  const tracks = song.tracks.map((track) => {
    const { events } = track;
    if (endTick(events) >= to) return track;
    const atTick = events.atTick.slice();
    atTick[events.count - 1] = to;
    return withEvents(track, { ...events, atTick });
  });
  return { ...song, tracks };
}

const notesWords = (n: number): string =>
  n === 1 ? 'One note' : `${n.toLocaleString('en')} notes`;

/** Notes that sound at a tick, having begun before it, and not before another. */
function soundingAt(song: Song, tick: number, since = 0): number {
  return song.tracks.reduce((sum, { events }) => {
    const { on, off, count } = notesOf(events);
    let n = 0;
    for (let i = 0; i < count; i++)
      if (
        off[i] !== -1 &&
        events.atTick[on[i]!]! >= since &&
        events.atTick[on[i]!]! < tick &&
        events.atTick[off[i]!]! > tick
      )
        n++;
    return sum + n;
  }, 0);
}

/** Whether a note that begins in a span has no end anywhere. */
const hangsIn = (song: Song, { from, to }: TickSpan): boolean =>
  song.tracks.some(({ events }) => {
    const { on, off } = notesOf(events);
    return on.some((row, n) => {
      const tick = events.atTick[row]!;
      return off[n] === -1 && tick >= from && tick < to;
    });
  });

const cutOffWords = (n: number): string =>
  `${notesWords(n)} that began before its first bar and ring${n === 1 ? 's' : ''} into it ${n === 1 ? 'was' : 'were'} left out.`;

function againWords(song: Song, { from }: TickSpan): string[] {
  const n = soundingAt(song, from);
  return n === 0
    ? []
    : [
        `${notesWords(n)} that ring${n === 1 ? 's' : ''} into it ${n === 1 ? 'is' : 'are'} struck again on its first tick.`,
      ];
}

function cutWords(song: Song, { from, to }: TickSpan, notes: 'cut' | 'again'): string[] {
  // What rings in from before is in the file only where it is struck again.
  const n = to === Infinity ? 0 : soundingAt(song, to, notes === 'again' ? 0 : from);
  return n === 0
    ? []
    : [
        `${notesWords(n)} that ring${n === 1 ? 's' : ''} over its last bar end${n === 1 ? 's' : ''} with it.`,
      ];
}
