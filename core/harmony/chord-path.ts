import { places, type BeatGrid } from './beat-grid.ts';
import { scaleBits, type Key } from './find-keys.ts';
import type { HeardBeats } from './heard-beats.ts';
import { qualities, qualityCalled, type Quality } from './qualities.ts';
import type { PitchClass } from './spelling.ts';

/** How much of what sounds is which degree of a chord, and each note that is none of it. */
const shareOf: Readonly<Record<string, number>> = { '1': 1, '3': 0.9, b3: 0.9, '5': 0.85 };
const shares = { seventh: 0.6, bentFifth: 0.8, above: 0.42, inKey: 0.05, outside: 0.02 };
/** How likely the lowest note is each degree. */
const bassLogs = {
  root: Math.log(0.62),
  third: Math.log(0.12),
  fifth: Math.log(0.12),
  above: Math.log(0.05),
  none: Math.log(0.02),
};
/** What each counts beside the notes, whose weight is 1 a beat that is full. */
const counts = { notes: 3.2, bass: 0.45, foreign: 0.22, rare: 0.2 };
/** What a change costs by the place of its beat. */
const changes: Readonly<Record<number, number>> = {
  [places.bar]: 1.1,
  [places.half]: 2.2,
  [places.beat]: 3.4,
  [places.between]: 3.9,
};

/** A chord over some root, with how much of what sounds each pitch class would be. */
export interface Template {
  readonly root: PitchClass;
  readonly quality: Quality;
  /** What each pitch that sounds, and the lowest of them, speaks for it; and what it is without. */
  readonly logs: Float64Array;
  readonly bass: Float64Array;
  readonly prior: number;
  /** Pitch classes that must be heard to tell it, as bits. */
  readonly needed: number;
}

/** Chords that a stretch is told as; what stands on top of them is looked for once it is known where they change. */
const plain =
  '|m|7|m7|maj7|dim|sus4|sus2|aug|6|m6|m7b5|dim7|7sus4|add9|madd9|9|maj9|m9|mMaj7|5|aug7|7b9'
    .split('|')
    .map((text) => qualityCalled(text)!);

const cache = new Map<string, readonly Template[]>();

/** Chords as they would sound in a key: the plain ones, or all. */
export function templatesIn(key: Key, all: boolean): readonly Template[] {
  const name = `${key.tonic} ${key.minor} ${all}`;
  const known = cache.get(name);
  if (known) return known;
  const scale = scaleBits(key);
  const made = (all ? qualities : plain).flatMap((quality) =>
    Array.from({ length: 12 }, (_, root) => templateOf(root, quality, scale)),
  );
  cache.set(name, made);
  return made;
}

/** What each tone of a quality counts for among the notes and as the lowest of them. */
interface Shape {
  readonly shares: readonly number[];
  readonly bass: readonly number[];
}
const shapes = new Map<Quality, Shape>();

function shapeOf(quality: Quality): Shape {
  const known = shapes.get(quality);
  if (known) return known;
  const shape = {
    shares: quality.degrees.map(
      (d) =>
        shareOf[d] ??
        (/7$|^[246]$/.test(d) ? shares.seventh : /5$/.test(d) ? shares.bentFifth : shares.above),
    ),
    bass: quality.degrees.map((d, n) =>
      n === 0
        ? bassLogs.root
        : /3$/.test(d)
          ? bassLogs.third
          : /5$/.test(d)
            ? bassLogs.fifth
            : bassLogs.above,
    ),
  };
  shapes.set(quality, shape);
  return shape;
}

function templateOf(root: PitchClass, quality: Quality, scale: number): Template {
  const raw = new Float64Array(12);
  const bass = new Float64Array(12).fill(bassLogs.none);
  for (let pitch = 0; pitch < 12; pitch++)
    raw[pitch] = scale & (1 << pitch) ? shares.inKey : shares.outside;
  const shape = shapeOf(quality);
  let foreign = 0;
  quality.tones.forEach((tone, n) => {
    const pitch = (root + tone) % 12;
    raw[pitch] = shape.shares[n]!;
    bass[pitch] = shape.bass[n]!;
    if (!(scale & (1 << pitch))) foreign++;
  });
  let all = 0;
  for (const share of raw) all += share;
  const logs = raw.map((x) => counts.notes * Math.log(x / all));
  const prior = -counts.foreign * foreign - counts.rare * quality.rare;
  const { needed } = quality;
  return {
    root,
    quality,
    logs,
    bass: bass.map((b) => counts.bass * b),
    prior,
    needed: ((needed << root) | (needed >> (12 - root))) & 0xfff,
  };
}

/** How well a chord goes with what is heard: twelve weights that add up to `strength`, and the lowest note. */
export function fit(
  { logs, bass, prior }: Template,
  weights: ArrayLike<number>,
  low: number,
  strength: number,
): number {
  let sum = strength * (prior + (low < 0 ? 0 : bass[low % 12]!));
  for (let pitch = 0; pitch < 12; pitch++) {
    const weight = weights[pitch]!;
    if (weight > 0) sum += weight * logs[pitch]!;
  }
  return sum;
}

/** What sounds on a beat, as shares of a full one: weights that add up to `strength`, at most 1. */
export function strengthOf(weights: Float32Array, at: number): number {
  let all = 0;
  for (let pitch = 0; pitch < 12; pitch++) all += weights[at + pitch]!;
  return all;
}

/** Stretches of beats over which one chord sounds; `template` is undefined where nothing does. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly template: Template | undefined;
}

/**
 * The likeliest chords over the beats: each beat says how well each chord goes with it, and a change costs
 * the more the weaker the beat it comes on (the path of least cost, found by dynamic programming).
 */
export function chordPath(
  grid: BeatGrid,
  { weights, bass }: HeardBeats,
  keyOfBeat: (beat: number) => Key,
): Stretch[] {
  const beats = grid.ticks.length - 1;
  const count = plain.length * 12;
  let score = new Float64Array(count);
  // Where a chord that begins on a beat comes from is the same for all.
  const begins = new Uint8Array(beats * count);
  const before = new Int16Array(beats);
  const best = new Int16Array(beats);
  const shared = new Float32Array(12);
  for (let b = 0; b < beats; b++) {
    const key = keyOfBeat(b);
    const templates = templatesIn(key, false);
    const all = strengthOf(weights, b * 12);
    const strength = Math.min(1, all);
    for (let pitch = 0; pitch < 12; pitch++)
      shared[pitch] = all === 0 ? 0 : (weights[b * 12 + pitch]! / all) * strength;
    let top = 0;
    for (let c = 1; c < count; c++) if (score[c]! > score[top]!) top = c;
    const change = score[top]! - changes[grid.place[b]!]!;
    const now = new Float64Array(count);
    before[b] = top;
    for (let c = 0; c < count; c++) {
      const stays = score[c]!;
      const comes = b > 0 && change > stays;
      if (comes) begins[b * count + c] = 1;
      now[c] =
        (comes ? change : stays) +
        (strength === 0 ? 0 : fit(templates[c]!, shared, bass[b]!, strength));
    }
    score = now;
  }
  if (beats === 0) return [];
  let at = 0;
  for (let c = 1; c < count; c++) if (score[c]! > score[at]!) at = c;
  for (let b = beats - 1; b >= 0; b--) {
    best[b] = at;
    if (begins[b * count + at] === 1) at = before[b]!;
  }
  const found: Stretch[] = [];
  for (let b = 0; b < beats; b++) {
    const chord = strengthOf(weights, b * 12) === 0 ? -1 : best[b]!;
    const last = found.at(-1);
    // A rest in the middle of a chord is one of its own only where it lasts into another bar.
    const template = chord === -1 ? undefined : templatesIn(keyOfBeat(b), false)[chord]!;
    const same =
      last &&
      (template === undefined
        ? last.template === undefined || grid.place[b] !== places.bar
        : last.template?.root === template.root && last.template.quality === template.quality);
    if (same) found[found.length - 1] = { ...last, to: b + 1 };
    else found.push({ from: b, to: b + 1, template });
  }
  return found;
}
