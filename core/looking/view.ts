import { positionAt, meterMap, quarterTicks, type MeterMap } from '../timing/meter-map.ts';
import { tempoMap, ticksToSeconds } from '../timing/tempo-map.ts';
import { timingOf, type Timing } from '../timing/timing.ts';
import { notesOf, type Notes } from '../song/notes.ts';
import { sentSong } from '../song/lanes.ts';
import { hasMapTrack, trackLabel, trackName, type Song, type Track } from '../song/song.ts';

/** A track as the rules see it. */
export interface LookedTrack {
  readonly id: string;
  readonly track: Track;
  /** Its name, '' where it has none. */
  readonly name: string;
  /** What it is called in sentences. */
  readonly label: string;
  readonly notes: Notes;
  readonly map: boolean;
}

/** A song as the rules see it; what several of them need is worked out once. */
export interface LookedSong {
  readonly song: Song;
  readonly tracks: readonly LookedTrack[];
  /** Those with notes. */
  readonly parts: readonly LookedTrack[];
  readonly timing: Timing;
  readonly meters: MeterMap;
  barAt(tick: number): number;
  /** Time of a tick. */
  seconds(tick: number): number;
  /** Ticks of a quarter note. */
  readonly quarter: number;
}

/** What is parked is neither played nor sent, so the rules do not see it. */
export function viewOf(whole: Song): LookedSong {
  const song = sentSong(whole);
  const timing = timingOf(song);
  const meters = meterMap(timing.meters, song.division);
  const tempo = tempoMap(timing.tempos, song.division);
  const map = hasMapTrack(song);
  const tracks = song.tracks.map((track, i): LookedTrack => ({
    id: track.id, track, name: trackName(track, song.encoding), label: trackLabel(song, track), notes: notesOf(track.events), map: map && i === 0,
  }));
  return { song, tracks, parts: tracks.filter((t) => t.notes.count > 0), timing, meters, barAt: (tick) => positionAt(meters, tick).bar, seconds: (tick) => ticksToSeconds(tempo, tick), quarter: quarterTicks(song.division) };
}
