import { quarterTicks } from '../timing/meter-map.ts';
import type { Song } from '../song/song.ts';
import { scaleBits } from './find-keys.ts';
import { pitchedNotes } from './pitched-notes.ts';
import { noteIn, noteText } from './spelling.ts';
import type { KeyRegion } from './told-keys.ts';

/** Notes that begin in a region and are not of its key, with how many there are of each; most first. */
export type Outside = readonly { readonly note: string; readonly count: number }[];

/** For each region the notes that are none of its key. In minor the raised sixth and seventh are. */
export function outsideOf(song: Song, regions: readonly KeyRegion[]): Outside[] {
  const counts = regions.map(() => new Uint32Array(12));
  const quarter = quarterTicks(song.division);
  for (const track of song.tracks) {
    const { count, from, key } = pitchedNotes(track, quarter);
    let region = 0;
    for (let n = 0; n < count; n++) {
      while (region < regions.length && regions[region]!.toTick <= from[n]!) region++;
      if (region === regions.length) break;
      if (from[n]! >= regions[region]!.fromTick) counts[region]![key[n]! % 12]!++;
    }
  }
  return regions.map(({ key, spelled }, n) => {
    const scale = scaleBits(key);
    return Array.from(counts[n]!, (count, pitch) => ({ pitch, count }))
      .filter(({ pitch, count }) => count > 0 && !(scale & (1 << pitch)))
      .sort((a, b) => b.count - a.count)
      .map(({ pitch, count }) => ({ note: noteText(noteIn(pitch, spelled)), count }));
  });
}
