import { z } from 'zod';
import type { MeterMap } from '#core/timing/meter-map.ts';
import { tickIn } from './place-field.tsx';

/** A place as it is typed, bar.beat.tick; as it is understood, its tick. */
export const placeSchema = (meters: MeterMap) =>
  z.string().transform((text, context): number => {
    const tick = tickIn(meters, text);
    if (tick === undefined)
      context.addIssue({
        code: 'custom',
        message: `${text || 'Nothing'} is no place of this song.`,
      });
    return tick ?? z.NEVER;
  });
