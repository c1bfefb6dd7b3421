/** The little music theory that the demo's arranger needs. Keys are MIDI key numbers; middle C is 60 and written C4. */

export interface Note {
  readonly atTick: number;
  readonly lengthTicks: number;
  readonly key: number;
  readonly velocity: number;
}

const letters: Readonly<Record<string, number>> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

/** "Bb4" → 70, "F#3" → 54. */
export function keyOf(name: string): number {
  const [, letter, sign, octave] = /^([A-G])([#b]?)(-?\d)$/.exec(name) ?? [];
  if (letter === undefined) throw new Error(`Not a note: ${name}`);
  return letters[letter]! + (sign === '#' ? 1 : sign === 'b' ? -1 : 0) + (Number(octave) + 1) * 12;
}

const qualities: Readonly<Record<string, readonly number[]>> = {
  '': [0, 4, 7],
  m: [0, 3, 7],
  '7': [0, 4, 7, 10],
  m7: [0, 3, 7, 10],
  maj7: [0, 4, 7, 11],
  dim: [0, 3, 6],
  sus: [0, 5, 7],
};

export interface Chord {
  readonly root: number;
  readonly pitches: readonly number[];
}

/** "Gm" → root 7, pitch classes 7, 10, 2. */
export function chordOf(name: string): Chord {
  const [, letter, sign, quality] = /^([A-G])([#b]?)(.*)$/.exec(name) ?? [];
  const shape = qualities[quality ?? '?'];
  if (letter === undefined || !shape) throw new Error(`Not a chord: ${name}`);
  const root = (letters[letter]! + (sign === '#' ? 1 : sign === 'b' ? 11 : 0)) % 12;
  return { root, pitches: shape.map((step) => (root + step) % 12) };
}

/** The chord tone nearest to `near` within a range; ties go down. */
export function nearestTone(
  pitches: readonly number[],
  near: number,
  lowest: number,
  highest: number,
): number {
  let best = -1;
  for (let key = lowest; key <= highest; key++) {
    if (!pitches.includes(key % 12)) continue;
    if (best === -1 || Math.abs(key - near) < Math.abs(best - near)) best = key;
  }
  return best;
}

/**
 * The next voicing of several voices: every chord tone that matters is there, the voices move as little as they can,
 * do not cross, and no two move in parallel fifths or octaves if another way is as short.
 */
export function leadVoices(
  before: readonly number[],
  chord: Chord,
  ranges: readonly (readonly [number, number])[],
): number[] {
  const choices = ranges.map(([low, high]) =>
    Array.from({ length: high - low + 1 }, (_, i) => low + i).filter((k) =>
      chord.pitches.includes(k % 12),
    ),
  );
  let best: { cost: number; keys: number[] } | undefined;
  const visit = (keys: number[]): void => {
    const voice = keys.length;
    if (voice === ranges.length) {
      const cost = costOf(before, keys, chord);
      if (!best || cost < best.cost) best = { cost, keys };
      return;
    }
    for (const key of choices[voice]!)
      if (voice === 0 || key < keys[voice - 1]!) visit([...keys, key]);
  };
  visit([]);
  return best ? best.keys : [...before];
}

function costOf(before: readonly number[], keys: readonly number[], chord: Chord): number {
  const moved = keys.reduce((sum, key, i) => sum + Math.abs(key - before[i]!), 0);
  const missing = chord.pitches.slice(0, 3).filter((p) => !keys.some((k) => k % 12 === p)).length;
  let parallels = 0;
  for (let a = 0; a < keys.length; a++) {
    for (let b = a + 1; b < keys.length; b++) {
      const was = (before[a]! - before[b]!) % 12;
      const is = (keys[a]! - keys[b]!) % 12;
      if (was === is && (is === 7 || is === 0) && keys[a] !== before[a]) parallels++;
    }
  }
  return moved + missing * 9 + parallels * 6;
}

/** Numbers that look random and are always the same: a linear congruential generator (Numerical Recipes' constants). */
export function dice(seed: number): () => number {
  let state = seed >>> 0;
  return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
}
