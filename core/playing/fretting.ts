/** Where a key is stopped: number of the string, as the tuning lists them, and fret from 0, the open string. */
export interface Stopped {
  readonly key: number;
  readonly string: number;
  readonly fret: number;
}

/**
 * Open strings of instruments by General MIDI program from 0, the highest first, as they are usually tuned
 * (common practice).
 */
export function tuningOf(program: number): readonly number[] | undefined {
  if (program >= 24 && program <= 31) return [64, 59, 55, 50, 45, 40];
  if (program >= 32 && program <= 37) return [43, 38, 33, 28];
  return bowed[program];
}
const bowed: Readonly<Record<number, readonly number[]>> = {
  40: [76, 69, 62, 55],
  41: [69, 62, 55, 48],
  42: [57, 50, 43, 36],
  43: [43, 38, 33, 28],
};

export const lastFret = 24;
/** Frets that a hand reaches at once, from the first that is stopped to the last. */
const hand = 4;

/**
 * Where keys that sound together are stopped: each on a string of its own, within a hand where that can be, as
 * near to the open strings as can be. Keys that
 * find no string are left out, the highest first.
 */
export function fretting(keys: readonly number[], tuning: readonly number[]): Stopped[] {
  const sorted = [...new Set(keys)].sort((a, b) => a - b).slice(0, tuning.length);
  for (let count = sorted.length; count > 0; count--) {
    const found = best(sorted.slice(0, count), tuning);
    if (found) return found;
  }
  return [];
}

/** The best way to stop all of the keys; undefined where there is none. */
function best(keys: readonly number[], tuning: readonly number[]): Stopped[] | undefined {
  let found: { way: Stopped[]; cost: number } | undefined;
  const place = (way: readonly Stopped[]): void => {
    const key = keys[way.length];
    if (key === undefined) {
      const cost = costOf(way);
      if (!found || cost < found.cost) found = { way: [...way], cost };
      return;
    }
    tuning.forEach((open, string) => {
      const fret = key - open;
      if (fret < 0 || fret > lastFret || way.some((s) => s.string === string)) return;
      place([...way, { key, string, fret }]);
    });
  };
  place([]);
  return found?.way;
}

/** Beyond the hand counts most, then the highest fret, then all of them together. */
function costOf(way: readonly Stopped[]): number {
  const frets = way.map((s) => s.fret).filter((f) => f > 0);
  const highest = Math.max(0, ...frets);
  const span = frets.length > 0 ? highest - Math.min(...frets) + 1 : 0;
  return Math.max(0, span - hand) * 1e6 + highest * 1e3 + frets.reduce((sum, f) => sum + f, 0);
}

/**
 * Where a key is stopped on the string that its channel is (common practice of guitars that send MIDI: the first
 * channel is the highest string).
 */
export function onOwnString(
  key: number,
  channel: number,
  channels: readonly number[],
  tuning: readonly number[],
): Stopped | undefined {
  const string = channels.indexOf(channel);
  const open = tuning[string];
  const fret = open === undefined ? -1 : key - open;
  return fret >= 0 && fret <= lastFret ? { key, string, fret } : undefined;
}
