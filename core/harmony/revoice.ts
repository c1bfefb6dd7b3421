import type { Chord } from './chord.ts';
import { pitchClass } from './spelling.ts';

/**
 * Other voicings of the notes of a chord. Keys go in from the lowest up, without doublets; each gives the new
 * key of each, in the same order, or `undefined` for one that is left out.
 */
export type NewKeys = readonly (number | undefined)[];

/** The lowest note goes above all others, or the highest below them: by whole octaves. */
export function inverted(keys: readonly number[], times: number): NewKeys {
  const now = [...keys];
  for (let n = 0; n < Math.abs(times); n++) {
    const [low, high] = [Math.min(...now), Math.max(...now)];
    const [place, target] = times > 0 ? [now.indexOf(low), high] : [now.indexOf(high), low];
    const gap = Math.abs(target - now[place]!);
    const octaves = 12 * Math.floor(gap / 12 + 1);
    now[place] = now[place]! + (times > 0 ? octaves : -octaves);
  }
  return now;
}

/** Within an octave above the lowest note; what falls on a note that is there is left out. */
export function closed(keys: readonly number[]): NewKeys {
  const bass = keys[0]!;
  const taken = new Set<number>();
  return keys.map((key) => {
    const wanted = key === bass ? key : bass + pitchClass(key - bass);
    const now = taken.has(wanted) && wanted === bass ? bass + 12 : wanted;
    if (taken.has(now)) return undefined;
    taken.add(now);
    return now;
  });
}

/** Every second note above the lowest goes up an octave. */
export const opened = (keys: readonly number[]): NewKeys =>
  keys.map((key, n) => (n % 2 === 1 ? key + 12 : key));

/** The second note from the top goes down an octave; of two notes none does. */
export const dropped = (keys: readonly number[]): NewKeys =>
  keys.map((key, n) => (keys.length > 2 && n === keys.length - 2 ? key - 12 : key));

/**
 * So many notes: the outermost stay, then the third and the seventh of the chord, what stands on top of
 * them, the root, the fifth; what doubles another goes first.
 */
export function thinned(
  keys: readonly number[],
  voices: number,
  chord: Chord | undefined,
): NewKeys {
  if (keys.length <= voices) return keys;
  const top = keys.length - 1;
  const seen = new Set<number>();
  const worth: number[] = keys.map((_, n) => (n === top ? 100 : n === 0 ? 99 : 0));
  seen.add(pitchClass(keys[top]!));
  if (voices > 1) seen.add(pitchClass(keys[0]!));
  for (let n = top - 1; n > 0; n--) {
    const pitch = pitchClass(keys[n]!);
    worth[n] = seen.has(pitch) ? 0 : worthOf(pitch, chord);
    seen.add(pitch);
  }
  const kept = new Set(
    [...keys.keys()].sort((a, b) => worth[b]! - worth[a]! || b - a).slice(0, voices),
  );
  return keys.map((key, n) => (kept.has(n) ? key : undefined));
}

function worthOf(pitch: number, chord: Chord | undefined): number {
  if (!chord) return 5;
  const place = chord.quality.tones.indexOf(pitchClass(pitch - chord.root));
  const degree = place === -1 ? '' : chord.quality.degrees[place]!;
  if (/^b?3$|^[24]$/.test(degree)) return 10;
  if (/7$|^6$/.test(degree)) return 9;
  if (degree === '5') return 3;
  if (degree === '1') return 4;
  return degree === '' ? 2 : 7;
}
