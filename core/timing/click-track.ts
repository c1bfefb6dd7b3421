import type { Division } from '../smf/division.ts';
import { clickTicks, clicksOf } from './click.ts';
import { clickWave, type WaveSettings } from './click-wave.ts';
import { meterMap } from './meter-map.ts';
import { tempoMap, ticksToSeconds } from './tempo-map.ts';
import type { Meter, TempoPoint } from './timing.ts';

export interface ClickFile extends WaveSettings {
  /** Clicks a beat. */
  readonly parts: number;
  /** In 6/8 and its like a beat is a dotted quarter, else an eighth. */
  readonly dotted: boolean;
  /** Bars clicked before bar 1, in the meter and tempo the song begins with. */
  readonly countIn: number;
}

/** The longest that a click file is made: with 24 bits at 48 kHz half a gigabyte. */
export const longestClick = 3600;

/** The click of a song as a WAV file, its count-in before it; why not, where it cannot be made. */
export function clickFile(
  song: {
    readonly meters: readonly Meter[];
    readonly tempos: readonly TempoPoint[];
    readonly division: Division;
    readonly endTick: number;
  },
  { parts, dotted, countIn, ...wave }: ClickFile,
): Uint8Array | 'too long' | 'no length' {
  if (song.endTick === 0) return 'no length';
  const map = tempoMap(song.tempos, song.division);
  const clicks = clicksOf(song.meters, song.division, song.endTick, parts, dotted);
  const first = meterMap(song.meters, song.division)[0]!;
  const { barTicks } = first;
  const beatTicks = clickTicks(first, dotted);
  const secondsATick = ticksToSeconds(map, 1);
  const lead = countIn * barTicks * secondsATick;
  const seconds = lead + ticksToSeconds(map, song.endTick);
  if (!clicks || seconds > longestClick) return 'too long';
  const before = Array.from(
    { length: Math.round((countIn * barTicks * parts) / beatTicks) },
    (_, n) => {
      const inBar = n % Math.round((barTicks * parts) / beatTicks);
      return {
        kind: inBar === 0 ? 'bar' : inBar % parts === 0 ? 'beat' : 'between',
        seconds: (n * beatTicks * secondsATick) / parts,
      } as const;
    },
  );
  return clickWave(
    [
      ...before,
      ...clicks.map(({ kind, atTick }) => ({ kind, seconds: lead + ticksToSeconds(map, atTick) })),
    ],
    seconds,
    wave,
  );
}
