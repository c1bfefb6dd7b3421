import { percussionChannel } from '../../instruments/general-midi.ts';
import { counted } from '../../operations/shared/rewrite.ts';
import { on, type Noticed } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

/** Fewer notes than this are doubled by chance. */
const leastNotes = 8;
/** What comes later than so many quarters is an answer and no echo. */
const mostLate = 2;

/** The part's notes as tick and key, in order. */
function line({ notes, track: { events } }: LookedTrack): { tick: number; key: number }[] {
  return Array.from({ length: notes.count }, (_, n) => ({ tick: events.atTick[notes.on[n]!]!, key: events.data1[notes.on[n]!]! })).sort((a, b) => a.tick - b.tick || a.key - b.key);
}

/** By how many semitones (0 or whole octaves) and ticks `b` doubles `a` note for note; undefined where it does not, or comes so late that it answers. */
function doubling(a: readonly { tick: number; key: number }[], b: readonly { tick: number; key: number }[], latest: number): { interval: number; late: number } | undefined {
  if (a.length !== b.length) return undefined;
  const [interval, late] = [b[0]!.key - a[0]!.key, b[0]!.tick - a[0]!.tick];
  if (interval % 12 !== 0 || Math.abs(late) > latest) return undefined;
  return a.every((note, i) => b[i]!.tick - note.tick === late && b[i]!.key - note.key === interval) ? { interval, late } : undefined;
}

const plays = ({ track: { events } }: LookedTrack): number => (events.status.find((s) => s < 0xf0) ?? 0) & 15;

/** The same for lines that double each other, hardly ever for others: ticks and steps from the first note, and its pitch class (FNV-1a, 32 bits). */
function signature(notes: readonly { tick: number; key: number }[]): string {
  const { key: first, tick: start } = notes[0]!;
  let hash = 0x811c9dc5;
  const mix = (value: number): void => {
    hash = Math.imul(hash ^ (value & 0xffff), 0x01000193);
    hash = Math.imul(hash ^ Math.floor(value / 0x10000), 0x01000193);
  };
  for (const { tick, key } of notes) {
    mix(tick - start);
    mix(key - first + 128);
  }
  return `${notes.length} ${first % 12} ${hash >>> 0}`;
}

/** Parts are compared note for note only where their signatures agree, and by a sample where one may hold the other: songs of very many tracks cost no more than their notes. */
export function doubled(song: LookedSong): Noticed[] {
  const lines = linesOf(song);
  const pairs = wholeDoubles(song, lines);
  const times = new Map<LookedTrack, number>();
  for (const { a } of pairs) times.set(a, (times.get(a) ?? 0) + 1);
  const whole = pairs.map(({ a, b, interval, late }) => notice(a, b, interval, { late, ofSeveral: times.get(a)! > 1 }));
  const told = new Set(whole.flatMap((n) => n.tracks.slice(1)));
  return [...whole, ...contained(lines.filter(({ part }) => !told.has(part.id)))];
}

/** Parts that play another's line a moment later. */
export const echoesIn = (song: LookedSong): Set<string> => new Set(wholeDoubles(song, linesOf(song)).flatMap(({ b, late }) => (late > 0 ? [b.id] : [])));

const linesOf = ({ parts }: LookedSong): Line[] => parts.flatMap((part) => (part.notes.count < leastNotes || plays(part) === percussionChannel ? [] : [{ part, line: line(part) }]));

/** Pairs of parts with the same line, `b` no earlier than `a`. */
function wholeDoubles({ quarter }: LookedSong, lines: readonly Line[]): { a: LookedTrack; b: LookedTrack; interval: number; late: number }[] {
  const bySignature = new Map<string, Line[]>();
  for (const own of lines) {
    const key = signature(own.line);
    const alike = bySignature.get(key);
    if (alike) alike.push(own);
    else bySignature.set(key, [own]);
  }
  return [...bySignature.values()].flatMap(([first, ...others]) =>
    others.flatMap((other) => {
      const found = doubling(first!.line, other.line, quarter * mostLate);
      if (!found) return [];
      const { interval, late } = found;
      return [late < 0 ? { a: other.part, b: first!.part, interval: -interval, late: -late } : { a: first!.part, b: other.part, interval, late }];
    }),
  );
}

interface Line {
  readonly part: LookedTrack;
  readonly line: ReturnType<typeof line>;
}

/** So much of a part is in another where it doubles part of it. */
const containedShare = 0.95;
/** More parts are not held against each other, and of each so many notes first. */
const mostCompared = 128;
const sampled = 24;

/** Parts all or nearly all of whose notes another one has too, at the unison or whole octaves away. */
function contained(lines: readonly Line[]): Noticed[] {
  if (lines.length > mostCompared) return [];
  const places = lines.map(({ line }) => new Set(line.map(placeOf)));
  return lines.flatMap((small, n): Noticed[] => {
    for (const [m, large] of lines.entries()) {
      if (m === n || large.line.length < small.line.length || (large.line.length === small.line.length && m > n)) continue;
      for (const interval of [0, 12, -12, 24, -24]) {
        const shared = share(small.line, places[m]!, interval);
        if (shared >= containedShare) return [notice(large.part, small.part, -interval, { share: shared })];
      }
    }
    return [];
  });
}

const placeOf = ({ tick, key }: { tick: number; key: number }): number => tick * 256 + key;

/** How much of a line stands in the places of another, `interval` semitones up; a sample that does not says enough. */
function share(notes: readonly { tick: number; key: number }[], places: ReadonlySet<number>, interval: number): number {
  const within = (from: number, step: number): number => {
    let [count, there] = [0, 0];
    for (let i = from; i < notes.length; i += step, count++) if (places.has(placeOf(notes[i]!) + interval)) there++;
    return there / Math.max(1, count);
  };
  return within(0, Math.max(1, Math.floor(notes.length / sampled))) < containedShare - 0.1 ? 0 : within(0, 1);
}

/** What makes two parts that play the same sound as one wide or beating one; undefined where nothing does. */
function effectOf(a: LookedTrack, b: LookedTrack, late: number): string | undefined {
  if (late > 0) return `${counted(late, 'tick')} later`;
  const first = ({ track: { events } }: LookedTrack, is: (i: number) => boolean, value: (i: number) => number): number | undefined => {
    for (let i = 0; i < events.count; i++) if (is(i)) return value(i);
    return undefined;
  };
  const pan = (t: LookedTrack) => first(t, (i) => t.track.events.status[i]! >> 4 === 0xb && t.track.events.data1[i] === 10, (i) => t.track.events.data2[i]!) ?? 64;
  const bend = (t: LookedTrack) => first(t, (i) => t.track.events.status[i]! >> 4 === 0xe, (i) => t.track.events.data1[i]! | (t.track.events.data2[i]! << 7)) ?? 8192;
  if (Math.abs(pan(a) - pan(b)) >= 16) return 'panned apart';
  return bend(a) === bend(b) ? undefined : 'detuned';
}

function notice(a: LookedTrack, b: LookedTrack, interval: number, { share: part = 1, late = 0, ofSeveral = false }: { share?: number; late?: number; ofSeveral?: boolean } = {}): Noticed {
  const octaves = Math.abs(interval) / 12;
  const where = interval === 0 ? 'at the unison' : `${octaves === 1 ? 'an octave' : `${octaves} octaves`} ${interval > 0 ? 'up' : 'down'}`;
  const effect = interval === 0 || late > 0 ? effectOf(a, b, late) : undefined;
  const which = b.notes.count === a.notes.count && part === 1 ? '' : part === 1 ? ', part of it,' : `, part of it but for ${counted(Math.round(b.notes.count * (1 - part)), 'note')},`;
  const remove = (t: LookedTrack) => ({ title: `Remove ${t.label}`, operation: 'tracks.remove', settings: {}, scope: on(t.id) });
  return {
    title: `${b.label} doubles ${a.label}${which} ${where}${effect ? `, ${effect}` : ''}`,
    why: late > 0 ? 'The same line a moment later is an echo: most likely it is meant.' : effect ? 'Two of a part that stand apart make one wide or beating sound: most likely it is meant.' : interval === 0 ? 'The same notes twice only get louder, or beat against each other.' : 'A doubled octave is often left over from the sound it was played on.',
    tracks: [a.id, b.id], count: b.notes.count, sure: effect ? 'possible' : 'likely',
    settle: effect ? [] : which === '' && !ofSeveral ? [remove(b), remove(a)] : [remove(b)],
  };
}
