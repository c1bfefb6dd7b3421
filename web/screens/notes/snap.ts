import { nearestLine } from '#core/edit/nearest-line.ts';
import { valueTicks, type Feel, type NoteValue } from '#core/edit/note-values.ts';
import type { Division } from '#core/smf/division.ts';
import type { MeterMap } from '#core/timing/meter-map.ts';

/** The grid of the plane: values as musicians write them, or none. */
export interface Grid {
  /** Ticks of a step; 1 where there is none. */
  readonly step: number;
  /** The nearest line, counted anew from every bar line. */
  snap(tick: number): number;
}

export const gridNames = [
  'none',
  '1/1',
  '1/2',
  '1/4',
  '1/8',
  '1/8 triplet',
  '1/16',
  '1/16 triplet',
  '1/32',
  '1/64',
] as const;
export type GridName = (typeof gridNames)[number];

export function gridOf(name: GridName, division: Division, meters: MeterMap): Grid {
  if (name === 'none') return { step: 1, snap: Math.round };
  const [value, feel = 'straight'] = name.split(' ') as [NoteValue, Feel?];
  const step = valueTicks(value, feel, division);
  return {
    step: Math.max(1, Math.round(step)),
    snap: (tick) => Math.max(0, Math.round(nearestLine(meters, Math.max(0, tick), step, 50))),
  };
}
