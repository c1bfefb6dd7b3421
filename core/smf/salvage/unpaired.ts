import type { Events } from '../events.ts';

/** Keys that a lost stretch can leave unpaired. */
const mostKeys = 6;

/**
 * The row of the first note message that pairs with none: an end of a key that does not sound, or a key
 * struck while it sounds. Where such come on a few keys only, notes have been lost shortly before;
 * undefined where there are none, or where the track is played so.
 */
export function firstUnpaired({ count, status, data1, data2 }: Events): number | undefined {
  const sounds = new Uint8Array(16 * 128);
  const keys = new Set<number>();
  let first: number | undefined;
  for (let row = 0; row < count; row++) {
    const kind = status[row]! >> 4;
    if (kind !== 8 && kind !== 9) continue;
    const key = ((status[row]! & 15) << 7) | data1[row]!;
    const starts = kind === 9 && data2[row]! > 0;
    if (starts === (sounds[key] === 1)) {
      first ??= row;
      keys.add(key);
      if (keys.size > mostKeys) return undefined;
    }
    sounds[key] = Number(starts);
  }
  return first;
}
