import type { Division } from '../smf/division.ts';
import { barTick, barsUntil, meterAt, meterMap, type MeterSpan } from './meter-map.ts';
import { notatedBeat } from './notated-beat.ts';
import type { Meter } from './timing.ts';

export type ClickKind = 'bar' | 'beat' | 'between';

export interface Click {
  /** Not always whole: where a beat is divided. */
  readonly atTick: number;
  readonly untilTick: number;
  readonly kind: ClickKind;
}

/** Hours of music; more is a song with a stray event far behind its end. */
export const mostClicks = 40_000;

/**
 * Ticks from one click of a beat to the next: the note of the meter, or three of them where they come by
 * threes and `dotted` asks for it.
 */
export const clickTicks = (span: MeterSpan, dotted: boolean): number =>
  dotted
    ? span.beatTicks * Math.round(notatedBeat(span).quarters / (4 / span.denominator))
    : span.beatTicks;

/**
 * The clicks of bars and beats up to `endTick`, each beat in `parts`; undefined where they are more than
 * {@link mostClicks}.
 */
export function clicksOf(
  meters: readonly Meter[],
  division: Division,
  endTick: number,
  parts: number,
  dotted = false,
): Click[] | undefined {
  const map = meterMap(meters, division);
  const bars = barsUntil(map, endTick);
  const clicks: Click[] = [];
  for (let bar = 1; bar <= bars; bar++) {
    const [from, to] = [barTick(map, bar), Math.min(barTick(map, bar + 1), endTick)];
    const beatTicks = clickTicks(meterAt(map, from), dotted);
    for (let n = 0; from + (n * beatTicks) / parts < to - 0.5; n++) {
      if (clicks.length === mostClicks) return undefined;
      const atTick = from + (n * beatTicks) / parts;
      clicks.push({
        atTick,
        untilTick: atTick + beatTicks / parts,
        kind: n === 0 ? 'bar' : n % parts === 0 ? 'beat' : 'between',
      });
    }
  }
  return clicks;
}
