import { meterMap } from '../timing/meter-map.ts';
import type { Division } from '../smf/division.ts';
import { ticksToSeconds, type TempoMap } from '../timing/tempo-map.ts';
import type { Meter } from '../timing/timing.ts';
import type { Beat } from './transport.ts';

/** More beats than anybody listens to. */
const most = 100_000;

/** The notated beats of a song up to a tick, in seconds. */
export function beatsOf(
  meters: readonly Meter[],
  tempo: TempoMap,
  { division, endTick }: { readonly division: Division; readonly endTick: number },
): Beat[] {
  const beats: Beat[] = [];
  const spans = meterMap(meters, division);
  for (const [n, { atTick, beatTicks, numerator }] of spans.entries()) {
    const end = Math.min(spans[n + 1]?.atTick ?? Infinity, endTick);
    for (let beat = 0; atTick + beat * beatTicks < end && beats.length < most; beat++)
      beats.push({
        seconds: ticksToSeconds(tempo, atTick + beat * beatTicks),
        first: beat % numerator === 0,
      });
  }
  return beats;
}
