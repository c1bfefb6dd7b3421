import { percussionChannel } from '../../instruments/general-midi.ts';
import { counted } from '../../edit/rewrite.ts';
import type { Events } from '../../smf/events.ts';
import { hexBit, toHex } from '../../units/hex.ts';
import type { Noticed } from '../finding.ts';
import { removal } from '../removal.ts';
import type { LineSketch } from '../track-look.ts';
import { comparesParts, type LookedSong, type LookedTrack } from '../view.ts';

/** Fewer notes than this are doubled by chance. */
const leastNotes = 8;
/** What comes later than so many quarters is an answer and no echo. */
const mostLate = 2;

/** The part's notes as tick and key, in order. */
function line({ notes, track: { events } }: LookedTrack): { tick: number; key: number }[] {
  return Array.from({ length: notes.count }, (_, n) => ({
    tick: events.atTick[notes.on[n]!]!,
    key: events.data1[notes.on[n]!]!,
  })).sort((a, b) => a.tick - b.tick || a.key - b.key);
}

/**
 * By how many semitones (0 or whole octaves) and ticks `b` doubles `a` note for note; undefined where it
 * does not, or comes so late that it answers.
 */
function doubling(
  a: readonly { tick: number; key: number }[],
  b: readonly { tick: number; key: number }[],
  latest: number,
): { interval: number; late: number } | undefined {
  if (a.length !== b.length) return undefined;
  const [interval, late] = [b[0]!.key - a[0]!.key, b[0]!.tick - a[0]!.tick];
  if (interval % 12 !== 0 || Math.abs(late) > latest) return undefined;
  return a.every((note, i) => b[i]!.tick - note.tick === late && b[i]!.key - note.key === interval)
    ? { interval, late }
    : undefined;
}

const plays = ({ track: { events } }: LookedTrack): number =>
  (events.status.find((s) => s < 0xf0) ?? 0) & 15;

/**
 * The same for lines that double each other, hardly ever for others: ticks and steps from the first note,
 * and its pitch class (FNV-1a, 32 bits).
 */
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

const withoutOctave = ({ tick, key }: { tick: number; key: number }): number =>
  tick * 12 + (key % 12);
/**
 * More bits than this are not kept of a line: of 25,000 notes they still rule out nearly every other part
 * by its sample.
 */
const mostBits = 1 << 15;
/** A hash of 31 bits; of as many bits as there are the lowest count. */
const hashOf = (note: { tick: number; key: number }): number =>
  ((place) => (Math.imul(place % 0x7fffffff, 0x9e3779b1) ^ (place / 0x7fffffff)) >>> 1)(
    withoutOctave(note),
  );

/** The sketch of a part's line; null where it is a kit's, or too short to be doubled but by chance. */
export function lineSketch({ song }: LookedSong, t: LookedTrack): LineSketch | null {
  if (t.notes.count < leastNotes || plays(t) === percussionChannel) return null;
  const notes = line(t);
  return {
    signature: signature(notes),
    sample: sampleOf(notes).map(hashOf),
    places: comparesParts(song) ? toHex(bitsOf(notes)) : '',
    ...firstPanAndBend(t.track.events),
  };
}

function bitsOf(notes: ReturnType<typeof line>): Uint8Array {
  const bits = Math.min(mostBits, 2 ** Math.ceil(Math.log2(notes.length * 8)));
  const set = new Uint8Array(bits >> 3);
  for (const note of notes) {
    const bit = hashOf(note) & (bits - 1);
    set[bit >> 3]! |= 1 << (bit & 7);
  }
  return set;
}

function firstPanAndBend({ status, data1, data2, count }: Events): { pan: number; bend: number } {
  let [pan, bend] = [-1, -1];
  for (let i = 0; i < count && (pan === -1 || bend === -1); i++) {
    if (pan === -1 && status[i]! >> 4 === 0xb && data1[i] === 10) pan = data2[i]!;
    if (bend === -1 && status[i]! >> 4 === 0xe) bend = data1[i]! | (data2[i]! << 7);
  }
  return { pan: pan === -1 ? 64 : pan, bend: bend === -1 ? 8192 : bend };
}

interface Line {
  readonly part: LookedTrack;
  readonly sketch: LineSketch;
}

/**
 * Parts are compared note for note only where their sketches agree: songs of very many tracks cost no more
 * than their notes.
 */
export function doubled(song: LookedSong): Noticed[] {
  const lines = linesOf(song);
  const pairs = wholeDoubles(song, lines);
  const times = new Map<LookedTrack, number>();
  for (const { a } of pairs) times.set(a, (times.get(a) ?? 0) + 1);
  const whole = pairs.map(({ a, b, interval, late }) =>
    notice(a, b, interval, { late, ofSeveral: times.get(a)! > 1 }),
  );
  const told = new Set(whole.flatMap((n) => n.tracks.slice(1)));
  return [
    ...whole,
    ...(comparesParts(song.song) ? contained(lines.filter(({ part }) => !told.has(part.id))) : []),
  ];
}

/** Parts that play another's line a moment later. */
export const echoesIn = (song: LookedSong): Set<string> =>
  new Set(wholeDoubles(song, linesOf(song)).flatMap(({ b, late }) => (late > 0 ? [b.id] : [])));

const linesOf = ({ parts }: LookedSong): Line[] =>
  parts.flatMap((part) => (part.look.line ? [{ part, sketch: part.look.line }] : []));

/** Pairs of parts with the same line, `b` no earlier than `a`. */
function wholeDoubles(
  { quarter }: LookedSong,
  lines: readonly Line[],
): { a: LookedTrack; b: LookedTrack; interval: number; late: number }[] {
  const bySignature = new Map<string, LookedTrack[]>();
  for (const { part, sketch } of lines) {
    const alike = bySignature.get(sketch.signature);
    if (alike) alike.push(part);
    else bySignature.set(sketch.signature, [part]);
  }
  return [...bySignature.values()]
    .filter((alike) => alike.length > 1)
    .flatMap(([first, ...others]) => {
      const model = line(first!);
      return others.flatMap((other) => {
        const found = doubling(model, line(other), quarter * mostLate);
        if (!found) return [];
        const { interval, late } = found;
        return [
          late < 0
            ? { a: other, b: first!, interval: -interval, late: -late }
            : { a: first!, b: other, interval, late },
        ];
      });
    });
}

/** So much of a part is in another where it doubles part of it. */
const containedShare = 0.95;
/** Of each part so many notes are held against another first. */
const sampled = 24;
/** Of those so many. */
const sampledShare = containedShare - 0.1;

const sampleOf = <T>(notes: readonly T[]): T[] =>
  ((step) => notes.filter((_, i) => i % step === 0))(
    Math.max(1, Math.floor(notes.length / sampled)),
  );

/** Parts all or nearly all of whose notes another one has too, at the unison or whole octaves away. */
function contained(lines: readonly Line[]): Noticed[] {
  const notesOf = new Map<LookedTrack, Placed>();
  const placed = ({ part }: Line): Placed => {
    const known = notesOf.get(part) ?? new Placed(part);
    notesOf.set(part, known);
    return known;
  };
  return lines.flatMap((small, n): Noticed[] => {
    for (const [m, large] of lines.entries()) {
      const [few, many] = [small.part.look.notes, large.part.look.notes];
      if (
        m === n ||
        many < few ||
        (many === few && m > n) ||
        !mayHold(large.sketch.places, small.sketch.sample)
      )
        continue;
      for (const interval of [0, 12, -12, 24, -24]) {
        const shared = share(placed(small).notes, placed(large).places, interval);
        if (shared >= containedShare)
          return [notice(large.part, small.part, -interval, { share: shared })];
      }
    }
    return [];
  });
}

/** Whether enough of a sample may stand among the places of a line. */
function mayHold(places: string, sample: readonly number[]): boolean {
  const mask = places.length * 4 - 1;
  let missing = sample.length * (1 - sampledShare);
  for (const hash of sample) if (!hexBit(places, hash & mask) && --missing < 0) return false;
  return true;
}

/** The notes of a part, and their places, each made when it is asked for. */
class Placed {
  private readonly part: LookedTrack;
  private line: ReturnType<typeof line> | undefined;
  private set: Set<number> | undefined;

  constructor(part: LookedTrack) {
    this.part = part;
  }

  get notes(): ReturnType<typeof line> {
    return (this.line ??= line(this.part));
  }

  get places(): ReadonlySet<number> {
    return (this.set ??= new Set(this.notes.map(placeOf)));
  }
}

const placeOf = ({ tick, key }: { tick: number; key: number }): number => tick * 256 + key;

/**
 * How much of a line stands in the places of another, `interval` semitones up; 0 where a sample says that
 * it does not.
 */
function share(
  notes: ReturnType<typeof line>,
  places: ReadonlySet<number>,
  interval: number,
): number {
  const within = (some: ReturnType<typeof line>): number =>
    some.filter((note) => places.has(placeOf(note) + interval)).length / some.length;
  return within(sampleOf(notes)) < sampledShare ? 0 : within(notes);
}

/** What plays a part: its own instrument, else its first program; undefined where nobody says. */
const soundOf = ({ track, look: { channels } }: LookedTrack): string | number | undefined =>
  track.instrument?.name ?? channels.programs[Math.log2(channels.played & -channels.played)];

/** What makes two parts of one line an arrangement, or one wide or beating sound; undefined where nothing does. */
function effectOf(a: LookedTrack, b: LookedTrack, late: number): string | undefined {
  if (late > 0) return `${counted(late, 'tick')} later`;
  const [one, two] = [a.look.line!, b.look.line!];
  if (soundOf(a) !== soundOf(b)) return 'on another instrument';
  if (Math.abs(one.pan - two.pan) >= 16) return 'panned apart';
  return one.bend === two.bend ? undefined : 'detuned';
}

/** What is meant is told, too; nothing here is surer than possible, since a whole part would go. */
function whyOf(effect: string | undefined, late: number, interval: number): string {
  if (late > 0) return 'The same line a moment later is an echo. This is probably intended.';
  if (effect === 'on another instrument')
    return 'Two instruments playing one line are arrangement. This is probably intended.';
  if (effect)
    return 'Two copies of a part, panned or detuned, sound wide. This is probably intended.';
  return interval === 0
    ? 'The same notes twice only get louder, or beat against each other.'
    : 'A doubled octave may be intended, or left over from the original sound. Listen first.';
}

function notice(
  a: LookedTrack,
  b: LookedTrack,
  interval: number,
  {
    share: part = 1,
    late = 0,
    ofSeveral = false,
  }: { share?: number; late?: number; ofSeveral?: boolean } = {},
): Noticed {
  const octaves = Math.abs(interval) / 12;
  const where =
    interval === 0
      ? 'at the unison'
      : `${octaves === 1 ? 'an octave' : `${octaves} octaves`} ${interval > 0 ? 'up' : 'down'}`;
  const effect = effectOf(a, b, late);
  const which =
    b.look.notes === a.look.notes && part === 1
      ? ''
      : part === 1
        ? ', part of it,'
        : `, part of it but for ${counted(Math.round(b.look.notes * (1 - part)), 'note')},`;
  const either = which === '' && !ofSeveral;
  return {
    title: `${b.label} doubles ${a.label}${which} ${where}${effect ? `, ${effect}` : ''}`,
    why: whyOf(effect, late, interval),
    tracks: [a.id, b.id],
    count: b.look.notes,
    sure: 'possible',
    settle: effect ? [] : [removal(b), ...(either ? [removal(a)] : [])],
  };
}
