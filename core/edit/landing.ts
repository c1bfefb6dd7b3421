import { META, meta, type Events } from '../smf/events.ts';
import { meantType } from '../smf/own-events.ts';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { barTick, meterMap } from '../timing/meter-map.ts';
import {
  secondsToExactTicks,
  tempoAt,
  tempoMap,
  ticksToSeconds,
  type TempoMap,
} from '../timing/tempo-map.ts';
import { keepLengths } from './least-length.ts';
import { sortedByTick } from './retime.ts';

/** Where a tick of one song falls in another: exactly, in ticks of that and parts of them. */
export type Landing = (tick: number) => number;

/** The first tick of a bar, or the very beginning. */
export const landingTick = (song: Song, bar: number | undefined): number =>
  bar === undefined ? 0 : barTick(meterMap(timingOf(song).meters, song.division), bar);

/**
 * Quarter notes kept: the source's beginning falls on `atTick`. Undefined where one of the two counts in
 * frames and knows no quarter notes.
 */
export function landingInBars(song: Song, source: Song, atTick: number): Landing | undefined {
  if (song.division.kind !== 'ppq' || source.division.kind !== 'ppq') return undefined;
  const { ticksPerQuarter: to } = song.division;
  const { ticksPerQuarter: from } = source.division;
  return (tick) => atTick + (tick * to) / from;
}

/** Seconds kept, over both tempo maps: the source's beginning sounds when `atTick` does. */
export function landingInSeconds(song: Song, source: Song, atTick: number): Landing {
  const [to, from] = [tempoOf(song), tempoOf(source)];
  const begins = ticksToSeconds(to, atTick);
  return (tick) => secondsToExactTicks(to, begins + ticksToSeconds(from, tick));
}

const tempoOf = (song: Song): TempoMap => tempoMap(timingOf(song).tempos, song.division);

export interface Landed {
  readonly events: Events;
  /** How far the farthest event is from its exact place, in milliseconds. */
  readonly off: number;
  /** Notes that would have lost their length, and were kept a tick long. */
  readonly kept: number;
}

/** Names and what sets up a track stand at its very beginning, wherever its music is put. */
const setsUpTrack: ReadonlySet<number> = new Set([
  meta.sequenceNumber,
  meta.trackName,
  meta.instrumentName,
  meta.port,
  meta.deviceName,
]);

/** The events at their places in the song, each on the nearest tick; the same columns where none moves. */
export function landed(events: Events, landing: Landing, song: Song): Landed {
  const tempo = tempoOf(song);
  const { division } = song;
  const milliseconds = (tick: number): number =>
    division.kind === 'ppq'
      ? tempoAt(tempo, tick) / division.ticksPerQuarter / 1000
      : 1000 / tempo.scale;
  const atTick = new Float64Array(events.count);
  let [off, moved] = [0, false];
  for (let i = 0; i < events.count; i++) {
    const tick = events.atTick[i]!;
    const exact =
      tick === 0 && events.status[i] === META && setsUpTrack.has(meantType(events, i))
        ? 0
        : landing(tick);
    atTick[i] = Math.round(exact);
    if (atTick[i] !== tick) moved = true;
    const apart = Math.abs(atTick[i]! - exact);
    if (apart > 1e-6) off = Math.max(off, apart * milliseconds(atTick[i]!));
  }
  if (!moved) return { events, off, kept: 0 };
  const rank = new Int8Array(events.count);
  const kept = keepLengths(events, atTick, rank);
  return { events: sortedByTick(events, atTick, rank), off, kept };
}
