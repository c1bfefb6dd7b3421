import type { Events } from '../smf/events.ts';
import { notesOf } from '../song/notes.ts';

/** What the notes of a part are like, in numbers that mean the same in every song. */
export interface Features {
  readonly notes: number;
  readonly mean: number;
  readonly lowest: number;
  readonly highest: number;
  /** Place among the pitched parts of the song by mean pitch, 0 the lowest to 1. */
  readonly place: number;
  readonly isLowest: boolean;
  /** Notes struck together, on average and at most. */
  readonly together: number;
  readonly chordsOfThree: number;
  /** Share of notes that begin alone while none goes on. */
  readonly alone: number;
  /** In quarter notes. */
  readonly length: number;
  readonly short: number;
  /** Length to the time until the next begins, 1 where they join. */
  readonly joined: number;
  readonly notesAQuarter: number;
  /**
   * Of the steps from one place to the next, by their highest notes: the same again, up to two semitones, a
   * fifth and more.
   */
  readonly repeated: number;
  readonly steps: number;
  readonly leaps: number;
  readonly onBeat: number;
  readonly keys: number;
  readonly bends: boolean;
  readonly wheel: boolean;
  readonly damper: boolean;
  readonly expression: boolean;
  /** Shares of the keys of kick, snare and hi-hat, and of all drums of a usual kit. */
  readonly kickSnareHat: number;
  readonly kit: number;
  readonly sameLength: number;
}

const kickSnareHat: ReadonlySet<number> = new Set([35, 36, 38, 40, 42, 44, 46]);
const usualKit: ReadonlySet<number> = new Set([
  35, 36, 37, 38, 39, 40, 41, 42, 43, 44, 45, 46, 47, 48, 49, 50, 51, 52, 53, 54, 55, 56, 57, 59,
]);

const share = (n: number, of: number): number => n / Math.max(1, of);
const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;

/** What a part is like shows in so many notes; those behind them are not looked at. */
const mostNotes = 20_000;

/**
 * The features of a part whose place among the others is not known yet; undefined where it has no notes.
 * @param quarter ticks of a quarter note
 */
export function featuresOf(events: Events, quarter: number): Features | undefined {
  const notes = notesOf(events);
  const count = Math.min(notes.count, mostNotes);
  if (count === 0) return undefined;
  const [on, off] = [notes.on.subarray(0, count), notes.off.subarray(0, count)];
  const keys = Array.from(on, (row) => events.data1[row]!);
  const from = Array.from(on, (row) => events.atTick[row]! / quarter);
  const lengths = Array.from(off, (row, n) =>
    row === -1 ? 1 : Math.max(0.01, events.atTick[row]! / quarter - from[n]!),
  );
  const said = messagesOf(events);
  const counted = new Map<number, number>();
  for (const length of lengths) {
    const rounded = Math.round(length * 24);
    counted.set(rounded, (counted.get(rounded) ?? 0) + 1);
  }
  return {
    notes: count,
    mean: keys.reduce((sum, key) => sum + key, 0) / count,
    lowest: keys.reduce((a, b) => Math.min(a, b)),
    highest: keys.reduce((a, b) => Math.max(a, b)),
    place: 0.5,
    isLowest: false,
    ...inTime(keys, from, lengths),
    length: median(lengths),
    short: share(lengths.filter((l) => l < 0.3).length, count),
    onBeat: share(from.filter((at) => Math.abs(at - Math.round(at)) < 0.06).length, count),
    keys: new Set(keys).size,
    ...said,
    kickSnareHat: share(keys.filter((k) => kickSnareHat.has(k)).length, count),
    kit: share(keys.filter((k) => usualKit.has(k)).length, count),
    sameLength: share(
      [...counted.values()].reduce((a, b) => Math.max(a, b)),
      count,
    ),
  };
}

/** Notes that begin so close, in quarter notes, are struck together. */
const oneStroke = 0.06;

type InTime = Pick<
  Features,
  | 'together'
  | 'chordsOfThree'
  | 'alone'
  | 'joined'
  | 'notesAQuarter'
  | 'repeated'
  | 'steps'
  | 'leaps'
>;

function inTime(
  keys: readonly number[],
  from: readonly number[],
  lengths: readonly number[],
): InTime {
  const strokes: { at: number; notes: number; top: number; alone: boolean; length: number }[] = [];
  let sounds = 0;
  keys.forEach((key, n) => {
    const at = from[n]!;
    const last = strokes.at(-1);
    if (last && at - last.at < oneStroke) {
      last.notes++;
      last.top = Math.max(last.top, key);
      last.alone = false;
      last.length = Math.max(last.length, lengths[n]!);
    } else strokes.push({ at, notes: 1, top: key, alone: sounds <= at + 0.1, length: lengths[n]! });
    sounds = Math.max(sounds, at + lengths[n]!);
  });
  const joined: number[] = [];
  let [repeated, steps, leaps, playing] = [0, 0, 0, 0];
  for (let n = 1; n < strokes.length; n++) {
    const [a, b] = [strokes[n - 1]!, strokes[n]!];
    const apart = Math.abs(b.top - a.top);
    if (apart === 0) repeated++;
    else if (apart <= 2) steps++;
    else if (apart >= 7) leaps++;
    joined.push(Math.min(1.5, a.length / (b.at - a.at)));
    // Rests of more than two bars of 4/4 are no part of how densely it plays.
    playing += Math.min(8, b.at - a.at);
  }
  const moves = strokes.length - 1;
  return {
    together: keys.length / strokes.length,
    chordsOfThree: share(strokes.filter((s) => s.notes >= 3).length, strokes.length),
    alone: share(strokes.filter((s) => s.alone).length, strokes.length),
    joined: joined.length > 0 ? median(joined) : 1,
    notesAQuarter: keys.length / Math.max(1, playing),
    repeated: share(repeated, moves),
    steps: share(steps, moves),
    leaps: share(leaps, moves),
  };
}

function messagesOf({
  status,
  data1,
  count,
}: Events): Pick<Features, 'bends' | 'wheel' | 'damper' | 'expression'> {
  const numbers = new Set<number>();
  let bends = 0;
  for (let i = 0; i < count; i++) {
    const kind = status[i]! >> 4;
    if (kind === 0xe) bends++;
    else if (kind === 0xb) numbers.add(data1[i]!);
  }
  return {
    bends: bends > 2,
    wheel: numbers.has(1) || numbers.has(2),
    damper: numbers.has(64),
    expression: numbers.has(11),
  };
}

/** Parts with their places among each other. `isDrums` says which have no pitch. */
export function placed(
  parts: readonly Features[],
  isDrums: (part: Features) => boolean,
): Features[] {
  const pitched = parts.filter((part) => !isDrums(part)).sort((a, b) => a.mean - b.mean);
  const place = new Map(pitched.map((part, n) => [part, n]));
  return parts.map((part) => {
    const n = place.get(part);
    if (n === undefined || pitched.length < 2) return part;
    return { ...part, place: n / (pitched.length - 1), isLowest: n === 0 };
  });
}

/** The features as the model takes them, each about from −1 to 1. */
export function vectorOf(f: Features): number[] {
  const pitch = (key: number): number => (key - 60) / 24;
  return [
    pitch(f.mean),
    pitch(f.mean) ** 2,
    pitch(f.lowest),
    pitch(f.highest),
    (f.highest - f.lowest) / 24 - 1,
    f.place * 2 - 1,
    f.isLowest ? 1 : 0,
    Math.min(3, f.together) - 1.5,
    f.chordsOfThree,
    f.alone,
    Math.max(-3, Math.min(3, Math.log2(f.length))) / 2,
    f.short,
    f.joined - 0.7,
    Math.max(-2, Math.min(3, Math.log2(f.notesAQuarter))) / 2,
    f.repeated,
    f.steps,
    f.leaps,
    f.onBeat,
    Math.log2(f.keys) / 2 - 1.5,
    f.bends ? 1 : 0,
    f.wheel ? 1 : 0,
    f.damper ? 1 : 0,
    f.expression ? 1 : 0,
    f.kickSnareHat,
    f.kit,
    f.sameLength,
    f.mean < 45 ? 1 : 0,
    f.mean > 76 ? 1 : 0,
    f.kickSnareHat * f.kit * (f.keys > 2 ? 1 : 0),
  ];
}
