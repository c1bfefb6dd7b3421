import type { Anchor } from '../timing/marks.ts';
import { meterMap, positionAt, positionText } from '../timing/meter-map.ts';
import { tempoMap, ticksToSeconds } from '../timing/tempo-map.ts';
import { addressAt, rateNumber } from '../timing/start-timecode.ts';
import { timingOf } from './timing-of.ts';
import type { StatedTimecode, Timing } from '../timing/timing.ts';
import { tempoToBpm } from '../units/units.ts';
import { barCells, type BarCells } from './cells.ts';
import { hasMapTrack, type Song } from './song.ts';
import { summarise, type TrackSummary } from './summary.ts';

/** A song as lists and sheets show it: everything that can be said without its events. */
export interface SongSummary {
  readonly notes: number;
  readonly mapTrack: boolean;
  readonly timing: TimingSummary;
  readonly tracks: readonly TrackSummary[];
}

export interface TimingSummary {
  readonly tempos: readonly {
    atTick: number;
    position: string;
    microsecondsPerQuarter: number;
    bpm: number;
    seconds: number;
  }[];
  readonly tempoCount: number;
  readonly meters: readonly {
    atTick: number;
    bar: number;
    numerator: number;
    denominator: number;
  }[];
  readonly copyright: readonly string[];
  /** Meters, also such as are stated again, that say another click than is usual. */
  readonly clicks: readonly {
    atTick: number;
    numerator: number;
    denominator: number;
    clocks: number;
    thirtySeconds: number;
  }[];
  readonly keys: readonly { atTick: number; position: string; sharps: number; minor: boolean }[];
  readonly markers: readonly MarkSummary[];
  readonly cuePoints: readonly MarkSummary[];
  readonly texts: readonly MarkSummary[];
  readonly chords: readonly MarkSummary[];
  readonly sections: readonly SectionSummary[];
  /** Address at bar 1. */
  readonly startTimecode?: string | undefined;
  readonly frameRate?: number | undefined;
  /** What is stated, and where. */
  readonly timecode?: StatedTimecode | undefined;
  readonly bars: number;
  readonly barsPerCell: number;
  readonly cellTicks: readonly number[];
  readonly endTick: number;
  readonly seconds: number;
}

export interface MarkSummary {
  readonly atTick: number;
  readonly position: string;
  readonly text: string;
  /** With its blanks and lines, where it has such. */
  readonly whole?: string | undefined;
  readonly track: string;
  readonly travels: boolean;
  readonly anchor: Anchor;
}

export interface SectionSummary {
  readonly name: string;
  readonly fromTick: number;
  readonly toTick: number;
  readonly from: string;
  readonly to: string;
  /** Id of the track its markers stand in. */
  readonly track: string;
  readonly travels: boolean;
  /** What its beginning belongs to. */
  readonly anchor: Anchor;
}

/** Lists are shown, not edited, from here; a hostile file must not make them endless. */
const mostListed = 5000;

/** Summary of a song. */
export function summariseSong(song: Song): SongSummary {
  const cells = cellsOf(song);
  const tracks = song.tracks.map((track) => summarise(track, cells, song.encoding));
  return {
    notes: tracks.reduce((sum, t) => sum + t.notes, 0),
    mapTrack: hasMapTrack(song),
    timing: timingSummary(song),
    tracks,
  };
}

export const cellsOf = (song: Song): BarCells =>
  ((timing) =>
    barCells(meterMap(timing.meters, song.division), timing.endTick, song.tracks.length))(
    timingOf(song),
  );

/** The song's time, by the facts of its tracks. */
export function timingSummary(song: Song): TimingSummary {
  const timing = timingOf(song);
  const meters = meterMap(timing.meters, song.division);
  const cells = barCells(meters, timing.endTick, song.tracks.length);
  const map = tempoMap(timing.tempos, song.division);
  const at = (atTick: number): string => positionText(positionAt(meters, atTick));
  const marks = (list: Timing['markers']): TimingSummary['markers'] =>
    list.slice(0, mostListed).map(({ atTick, text, whole, track, travels, seconds }) => ({
      atTick,
      position: at(atTick),
      text,
      ...(whole === undefined ? {} : { whole }),
      track,
      travels,
      anchor: seconds === undefined ? 'bars' : 'time',
    }));
  const { timecode } = timing;
  return {
    tempos: timing.tempos.slice(0, mostListed).map(({ atTick, tempo }) => ({
      atTick,
      position: at(atTick),
      microsecondsPerQuarter: tempo,
      bpm: Math.round(tempoToBpm(tempo) * 1000) / 1000,
      seconds: ticksToSeconds(map, atTick),
    })),
    tempoCount: timing.tempos.length,
    meters: meters
      .slice(0, mostListed)
      .map(({ atTick, bar, numerator, denominator }) => ({ atTick, bar, numerator, denominator })),
    copyright: timing.copyright,
    clicks: timing.meters
      .filter((m) => m.click)
      .slice(0, mostListed)
      .map(({ atTick, numerator, denominator, click }) => ({
        atTick,
        numerator,
        denominator,
        ...click!,
      })),
    keys: timing.keys.slice(0, mostListed).map((k) => ({ ...k, position: at(k.atTick) })),
    markers: marks(timing.markers),
    cuePoints: marks(timing.cuePoints),
    texts: marks(timing.texts),
    chords: marks(timing.chords),
    sections: timing.sections
      .slice(0, mostListed)
      .map(({ name, fromTick, toTick, travels, marks: [from] }) => ({
        name,
        fromTick,
        toTick,
        from: at(fromTick),
        to: at(toTick),
        track: from.track,
        travels,
        anchor: from.seconds === undefined ? 'bars' : 'time',
      })),
    ...(timecode
      ? {
          startTimecode: addressAt(timecode, map, 0),
          frameRate: rateNumber(timecode.rate),
          timecode,
        }
      : {}),
    bars: cells.bars,
    barsPerCell: cells.barsPerCell,
    cellTicks: [...cells.starts],
    endTick: timing.endTick,
    seconds: ticksToSeconds(map, timing.endTick),
  };
}
