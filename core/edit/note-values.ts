import { quarterTicks } from '../timing/meter-map.ts';
import type { Division } from '../smf/division.ts';

/** Note values as musicians write them. */
export const noteValues = ['1/1', '1/2', '1/4', '1/8', '1/16', '1/32', '1/64'] as const;
export type NoteValue = (typeof noteValues)[number];

export const feels = ['straight', 'dotted', 'triplet', 'quintuplet', 'septuplet'] as const;
export type Feel = (typeof feels)[number];

/** What a value becomes: three in the time of two, five and seven in the time of four; a dot adds half. */
const factor: Readonly<Record<Feel, number>> = {
  straight: 1,
  dotted: 3 / 2,
  triplet: 2 / 3,
  quintuplet: 4 / 5,
  septuplet: 4 / 7,
};

/** Length of a note value in ticks; not always a whole number. */
export const valueTicks = (value: NoteValue, feel: Feel, division: Division): number =>
  ((quarterTicks(division) * 4) / Number(value.slice(2))) * factor[feel];
