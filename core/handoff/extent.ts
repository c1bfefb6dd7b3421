import { noteCount } from '../song/notes.ts';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { barsUntil, meterMap } from '../timing/meter-map.ts';
import { addressAt } from '../timing/start-timecode.ts';
import { tempoMap, ticksToSeconds } from '../timing/tempo-map.ts';

/** How much a file holds, and how long it is. */
export interface Extent {
  readonly tracks: number;
  readonly notes: number;
  readonly bars: number;
  readonly seconds: number;
  /** Addresses of its beginning and end, where a timecode is stated. */
  readonly timecode?: { readonly from: string; readonly to: string };
}

export function extentOf(song: Song): Extent {
  const { tempos, meters, endTick, timecode } = timingOf(song);
  const map = tempoMap(tempos, song.division);
  return {
    tracks: song.tracks.length,
    notes: song.tracks.reduce((sum, t) => sum + noteCount(t.events), 0),
    bars: endTick === 0 ? 0 : barsUntil(meterMap(meters, song.division), endTick),
    seconds: ticksToSeconds(map, endTick),
    ...(timecode
      ? { timecode: { from: addressAt(timecode, map, 0), to: addressAt(timecode, map, endTick) } }
      : {}),
  };
}
