import type { Division } from '../smf/division.ts';
import { barTick, barsUntil, meterAt, meterMap } from './meter-map.ts';
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

/** The clicks of bars and beats up to `endTick`, each beat in `division` parts; undefined where they are more than {@link mostClicks}. */
export function clicksOf(meters: readonly Meter[], division: Division, endTick: number, parts: number): Click[] | undefined {
  const map = meterMap(meters, division);
  const bars = barsUntil(map, endTick);
  const clicks: Click[] = [];
  for (let bar = 1; bar <= bars; bar++) {
    const [from, to] = [barTick(map, bar), Math.min(barTick(map, bar + 1), endTick)];
    const { beatTicks } = meterAt(map, from);
    for (let n = 0; from + (n * beatTicks) / parts < to - 0.5; n++) {
      if (clicks.length === mostClicks) return undefined;
      const atTick = from + (n * beatTicks) / parts;
      clicks.push({ atTick, untilTick: atTick + beatTicks / parts, kind: n === 0 ? 'bar' : n % parts === 0 ? 'beat' : 'between' });
    }
  }
  return clicks;
}
