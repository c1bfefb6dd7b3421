import { tempoToBpm } from '../units/units.ts';
import type { Meter } from './timing.ts';

/** The note that a meter is counted in. */
export interface NotatedBeat {
  /** Its length in quarter notes. */
  readonly quarters: number;
  readonly name: string;
}

const names: Readonly<Record<number, string>> = {
  1: 'whole',
  2: 'half',
  4: 'quarter',
  8: 'eighth',
  16: 'sixteenth',
  32: 'thirty-second',
  64: 'sixty-fourth',
  128: 'hundred-twenty-eighth',
};

/**
 * The beat of a meter: its note, or three of them, dotted, where eighths or shorter come by threes: 6/8 and
 * 9/8, but not 3/8 (common practice).
 */
export function notatedBeat({
  numerator,
  denominator,
}: Pick<Meter, 'numerator' | 'denominator'>): NotatedBeat {
  const byThrees = denominator >= 8 && numerator > 3 && numerator % 3 === 0;
  return byThrees
    ? { quarters: 12 / denominator, name: `dotted ${names[denominator / 2]}` }
    : { quarters: 4 / denominator, name: names[denominator] ?? `1/${denominator}` };
}

/** Beats a minute of a tempo in microseconds a quarter. 476190 in 9/8 → 84 dotted quarters. */
export const beatBpm = (tempo: number, beat: NotatedBeat): number =>
  tempoToBpm(tempo) / beat.quarters;
