import { framesToSeconds, secondsToFrames } from './timecode.ts';
import { framesAt } from './start-timecode.ts';
import { secondsToExactTicks, tempoAt, ticksToSeconds, type TempoMap } from './tempo-map.ts';
import type { StatedTimecode } from './timing.ts';

/** The finest resolution a file can state (SMF 1.0: fifteen bits). */
export const finest = 32_767;

/** A place that another resolution should keep: where it lies in quarters, exactly, and what a quarter lasts there. */
export interface KeptPlace {
  readonly quarters: number;
  readonly secondsPerQuarter: number;
}

/** What a resolution does to places: how far the nearest ticks are from them. */
export interface ResolutionFacts {
  readonly ppq: number;
  /** Seconds. */
  readonly greatest: number;
  readonly mean: number;
  /** Places further off than the stated part of a frame; undefined where no frame rate is known. */
  readonly beyond?: number;
}

/** Ticks of marks as places: where a timecode is stated the frame they stand for, else where they are. */
export function keptPlaces(
  ticks: readonly number[],
  map: TempoMap,
  ticksPerQuarter: number,
  stated?: StatedTimecode,
): KeptPlace[] {
  return ticks.map((tick) => {
    const seconds = ticksToSeconds(map, tick);
    const exact = stated ? secondsToExactTicks(map, onFrame(seconds, tick, map, stated)) : tick;
    return {
      quarters: exact / ticksPerQuarter,
      secondsPerQuarter: tempoAt(map, Math.max(0, exact)) / 1_000_000,
    };
  });
}

/** The time of the frame that is nearest to a tick. */
export function onFrame(
  seconds: number,
  tick: number,
  map: TempoMap,
  stated: StatedTimecode,
): number {
  const frames = framesAt(stated, map, tick);
  return seconds + framesToSeconds(Math.round(frames) - frames, stated.rate);
}

const offBy = ({ quarters, secondsPerQuarter }: KeptPlace, ppq: number): number =>
  (Math.abs(Math.round(quarters * ppq) - quarters * ppq) / ppq) * secondsPerQuarter;

/** `part` is the part of a frame that is allowed, `rate` the frame rate of the stated timecode. */
export function resolutionFacts(
  places: readonly KeptPlace[],
  ppq: number,
  part: number,
  stated?: StatedTimecode,
): ResolutionFacts {
  let [greatest, sum, beyond] = [0, 0, 0];
  for (const place of places) {
    const off = offBy(place, ppq);
    greatest = Math.max(greatest, off);
    sum += off;
    if (stated && secondsToFrames(off, stated.rate) > part) beyond++;
  }
  return {
    ppq,
    greatest,
    mean: places.length === 0 ? 0 : sum / places.length,
    ...(stated ? { beyond } : {}),
  };
}

/**
 * The smallest resolution at which no place is further off than `most` seconds; undefined where none is
 * fine enough.
 */
export function smallestPpq(places: readonly KeptPlace[], most: number): number | undefined {
  // The place that the last resolution failed at is asked first.
  let hardest = 0;
  for (let ppq = 1; ppq <= finest; ppq++) {
    if (places.length > 0 && offBy(places[hardest]!, ppq) > most) continue;
    const fails = places.findIndex((place) => offBy(place, ppq) > most);
    if (fails === -1) return ppq;
    hardest = fails;
  }
  return undefined;
}
