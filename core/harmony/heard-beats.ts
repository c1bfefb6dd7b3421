import type { Track } from '../song/song.ts';
import type { BeatGrid } from './beat-grid.ts';
import { pitchedNotes } from './pitched-notes.ts';

/** What sounds on the beats of a stretch. */
export interface HeardBeats {
  /** For each beat twelve weights: how much of a beat each pitch class sounds, doublings counting less. */
  readonly weights: Float32Array;
  /** Lowest key that sounds for a good part of each beat, −1 where none does. */
  readonly bass: Int16Array;
  /** How many notes were heard. */
  readonly notes: number;
}

/** A note counts for the bass of a beat which it sounds through for so much of it. */
const bassShare = 0.24;
/** What was struck so many quarters ago says less of the chord that sounds now. */
const fresh = 4;
const held = 0.4;

export function heardBeats(tracks: readonly Track[], grid: BeatGrid, quarter: number): HeardBeats {
  const { ticks } = grid;
  const beats = ticks.length - 1;
  const sums = new Float32Array(beats * 12);
  const bass = new Int16Array(beats).fill(-1);
  let notes = 0;
  for (const track of tracks) {
    const { count, from, to, key } = pitchedNotes(track, quarter);
    let beat = 0;
    for (let n = 0; n < count; n++) {
      // Notes begin in order, so that their first beats are.
      while (beat < beats && ticks[beat + 1]! <= from[n]!) beat++;
      if (beat === beats) break;
      if (to[n]! <= ticks[0]!) continue;
      notes++;
      for (let b = beat; b < beats && ticks[b]! < to[n]!; b++) {
        const [begins, ends] = [ticks[b]!, ticks[b + 1]!];
        const share =
          (Math.min(to[n]!, ends) - Math.max(from[n]!, begins)) / Math.max(1, ends - begins);
        if (share <= 0) continue;
        sums[b * 12 + (key[n]! % 12)]! +=
          begins - from[n]! >= quarter * fresh ? share * held : share;
        if (share >= bassShare && (bass[b] === -1 || key[n]! < bass[b]!)) bass[b] = key[n]!;
      }
    }
  }
  for (let i = 0; i < sums.length; i++) sums[i] = Math.sqrt(sums[i]!);
  return { weights: sums, bass, notes };
}
