import type { Division } from '../smf/division.ts';
import { meterMap, type MeterMap } from '../timing/meter-map.ts';
import { tempoMap, type TempoMap } from '../timing/tempo-map.ts';
import type { TempoPoint } from '../timing/timing.ts';
import type { TimingSummary } from './song-summary.ts';

/** A song as far as its time goes, as it is shown. */
export interface TimedSong {
  readonly timing: TimingSummary;
  readonly division: Division;
}

/** A song's bars and times, with every tempo there is. */
export interface Maps {
  readonly meters: MeterMap;
  readonly tempo: TempoMap;
  readonly tempos: readonly TempoPoint[];
}

export const mapsOf = (
  { timing, division }: TimedSong,
  tempos: readonly TempoPoint[] = listed(timing),
): Maps => ({
  meters: meterMap(timing.meters, division),
  tempo: tempoMap(tempos, division),
  tempos,
});

const listed = ({ tempos }: TimingSummary): TempoPoint[] =>
  tempos.map((t) => ({ atTick: t.atTick, tempo: t.microsecondsPerQuarter }));
