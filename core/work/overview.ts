import { timingSummary, type TimingSummary } from '../song/song-summary.ts';
import { hasMapTrack, type Song } from '../song/song.ts';
import { gridOf } from './facts.ts';
import type { Ports } from './ports.ts';

/** What a list of songs says of one: small, while a manifest can be large. */
export interface Overview {
  readonly title: string;
  readonly format: 0 | 1 | 2;
  readonly tracks: number;
  readonly notes: number;
  readonly bars: number;
  readonly seconds: number;
}

/** What is said of a revision as a whole; its tracks are said by their facts. */
export interface RevisionView {
  readonly overview: Overview;
  readonly mapTrack: boolean;
  readonly timing: TimingSummary;
  /** Key of the bar grid that its tracks' activity is counted on. */
  readonly grid: string;
}

export function viewOfSong(song: Song, notes: number, ports: Pick<Ports, 'sha256'>): RevisionView {
  const timing = timingSummary(song);
  const { title, format, tracks } = song;
  const overview = {
    title,
    format,
    tracks: tracks.length,
    notes,
    bars: timing.bars,
    seconds: timing.seconds,
  };
  return {
    overview,
    mapTrack: hasMapTrack(song),
    timing,
    grid: gridOf(timing.cellTicks, ports).key,
  };
}
