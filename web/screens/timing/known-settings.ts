import type { SongView } from '#contracts/songs.ts';
import { barTick } from '#core/timing/meter-map.ts';
import { tempoAt, ticksToSeconds } from '#core/timing/tempo-map.ts';
import { tempoToBpm } from '#core/units/units.ts';
import type { Maps } from '#core/song/maps.ts';
import type { Bars } from '../../state/scope.ts';

const rounded = (value: number): number => Math.round(value * 1000) / 1000;

/** Settings that steps of the map begin with: what is known of the song, and the bars of the scope, or all. */
export function knownSettings(
  { timing, division }: SongView,
  { meters, tempo }: Maps,
  bars: Bars | undefined,
): Record<string, Record<string, unknown>> {
  const { from, to } = bars ?? { from: 1, to: timing.bars };
  const [start, end] = [barTick(meters, from), barTick(meters, to + 1)];
  const bpm = (tick: number): number => rounded(tempoToBpm(tempoAt(tempo, tick)));
  const slower = rounded(bpm(start) * 0.8);
  const bar = { bar: from };
  const ppq = division.kind === 'ppq' ? division.ticksPerQuarter : 480;
  return {
    'timing.tempo': { ...bar, bpm: bpm(start) },
    'timing.meter': bar,
    'timing.key': bar,
    'timing.marker': bar,
    'timing.section': { ...bar, lastBar: to },
    'timing.ramp': {
      ...bar,
      toBar: bars ? to + 1 : Math.min(timing.bars, 4) + 1,
      from: bpm(start),
      to: bars && bpm(end) !== bpm(start) ? bpm(end) : slower,
    },
    'timing.fit': {
      ...bar,
      lastBar: to,
      length: rounded(ticksToSeconds(tempo, end) - ticksToSeconds(tempo, start)),
    },
    'timing.length': { bars: timing.bars },
    'timing.timecode': timing.timecode
      ? { address: timing.startTimecode, rate: timing.timecode.rate }
      : {},
    'timing.resolution': { ppq: ppq === 960 ? 480 : 960 },
  };
}
